#pragma once

#include <QDialog>
#include <QString>
#include <map>

class QLineEdit;

namespace app {

/// Asks for what no file on the bench says: room temperature, cooler, cable, who lent a part.
class StatedFactsDialog final : public QDialog {
  Q_OBJECT
 public:
  /// `known` holds what was stated before, by the fact's id.
  explicit StatedFactsDialog(const std::map<QString, QString>& known, QWidget* parent = nullptr);
  [[nodiscard]] std::map<QString, QString> facts() const;

 private:
  std::map<QString, QLineEdit*> edits_;
};

}  // namespace app
