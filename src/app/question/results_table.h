#pragma once

#include <QWidget>
#include <vector>

#include "core/study/case.h"

class QPushButton;
class QTableWidget;

namespace app {

/// The results of a case beside its headline, a row each, to be named, added and taken out.
class ResultsTable final : public QWidget {
  Q_OBJECT
 public:
  explicit ResultsTable(const core::Case& a_case, QWidget* parent = nullptr);
  /// As they stand in the rows; rows without a name are left out.
  [[nodiscard]] std::vector<core::CaseResult> results() const;

 private:
  void add(const core::CaseResult& result);
  void takeOut();
  [[nodiscard]] core::CaseResult resultIn(int row) const;
  [[nodiscard]] QString textIn(int row, int column) const;
  bool is_typed_;  ///< a person types all results of the case
  QTableWidget* table_;
  QPushButton* take_out_;
  std::vector<core::CaseResult> given_;  ///< of each row, with what the columns do not show
};

}  // namespace app
