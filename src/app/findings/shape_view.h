#pragma once

#include <QWidget>
#include <optional>
#include <vector>

#include "app/model/study_model.h"

class QLabel;
class QTableWidget;

namespace app {

class SvgPicture;

/// What a ladder, a crossing or a chain says, for a case or all of them: its picture, and its contrasts as a table. A
/// contrast of two configurations that is chosen is what the lever chart below shows.
class ShapeView final : public QWidget {
  Q_OBJECT
 public:
  explicit ShapeView(const StudyModel& study, QWidget* parent = nullptr);
  /// Nothing: the suite, or the only case. Hidden for a pair.
  void show(std::optional<std::size_t> case_index);

 Q_SIGNALS:
  void pairRequested(const core::PairOf& pair);

 private:
  void fillTable();
  void fitRows();  ///< a verdict that is too long for a line takes more
  void choosePair(int row);
  const StudyModel& study_;
  std::optional<std::size_t> case_index_;
  std::vector<std::optional<core::PairOf>> pairs_;  ///< of each row; nothing where it is a heading, or no pair
  QLabel* sentence_;
  SvgPicture* picture_;
  QTableWidget* table_;
};

}  // namespace app
