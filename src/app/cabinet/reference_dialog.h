#pragma once

#include <QDialog>

#include "core/beside/beside_order.h"

class QLabel;
class QLineEdit;

namespace app {

/// A number from elsewhere, with where it is from.
class ReferenceDialog final : public QDialog {
  Q_OBJECT
 public:
  explicit ReferenceDialog(QWidget* parent = nullptr);
  [[nodiscard]] core::Reference reference() const;
  /// Only with a name, a source and a number.
  void accept() override;

 private:
  QLineEdit* name_;
  QLineEdit* source_;
  QLineEdit* value_;
  QLineEdit* unit_;
  QLineEdit* at_;
  QLabel* why_not_;
};

}  // namespace app
