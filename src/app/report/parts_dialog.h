#pragma once

#include <QDialog>

#include "report/page_order.h"

class QLineEdit;
class QListWidget;
class QPlainTextEdit;

namespace app {

/// The parts of a report: which, in which order, and a person's own words between them.
class PartsDialog final : public QDialog {
  Q_OBJECT
 public:
  explicit PartsDialog(const report::PageOrder& order, QWidget* parent = nullptr);
  [[nodiscard]] report::PageOrder order() const;
  /// The template as which it is to be kept; empty: it is not.
  [[nodiscard]] QString keptAs() const;

 private:
  void fill(const report::PageOrder& order);
  void put(const report::PagePartWords& words, bool is_in, int row);
  void move(int by);
  QListWidget* parts_;
  QPlainTextEdit* words_;
  QLineEdit* kept_as_;
};

}  // namespace app
