#pragma once

#include <QAbstractListModel>
#include <optional>

#include "app/model/study_model.h"

namespace app {

/// One row of the lever chart, ready to be drawn. Percentages are improvements: positive is better.
struct LeverRow {
  QString title;
  QString subtitle;
  QString remark;                 ///< with which it was pinned; empty where it was not
  QString change;                 ///< "+4.0 % (3.0 to 5.0)"
  QString verdict;                ///< in words, with its marks
  std::optional<double> percent;  ///< absent: nothing to draw yet
  std::optional<core::PercentInterval> interval;
  std::optional<core::NoticeThreshold> threshold;  ///< with a percentage: the zone that is too small to act on
  double spread_percent = 0;                       ///< run-to-run spread, one sd; 0 = not known
  bool is_counted = false;                         ///< carries no mark
  std::optional<std::size_t> case_index;           ///< absent for the suite
};
}  // namespace app
Q_DECLARE_METATYPE(app::LeverRow)

namespace app {

/// The chart's rows: the suite first, then pinned cases, then the others in the order that a person chose: from the
/// largest improvement to the largest loss with those without a result last, or in groups of a workload or of a preset,
/// each under a row that sums it up.
class LeverModel final : public QAbstractListModel {
  Q_OBJECT
 public:
  enum Role { RowRole = Qt::UserRole };
  explicit LeverModel(const StudyModel& study, QObject* parent = nullptr);

  enum class Sorted { ByEffect, ByWorkload, ByPreset };
  void setSorted(Sorted sorted);

  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] const LeverRow& row(int index) const { return rows_[static_cast<std::size_t>(index)]; }
  [[nodiscard]] int rowOfCase(std::size_t case_index) const;

  /// What the axis spans, percent: every interval and every threshold, with some air. Ends on a tick.
  [[nodiscard]] double axisLow() const { return axis_low_; }
  [[nodiscard]] double axisHigh() const { return axis_high_; }
  [[nodiscard]] double axisStep() const { return axis_step_; }
  /// One sentence that explains what is drawn.
  [[nodiscard]] QString legend() const;

 private:
  void refresh();
  void fitAxis();
  [[nodiscard]] const std::string& groupOf(const LeverRow& row) const;
  [[nodiscard]] std::size_t groupPlace(const LeverRow& row) const;
  void insertGroupRows();
  const StudyModel& study_;
  std::vector<LeverRow> rows_;
  Sorted sorted_ = Sorted::ByEffect;
  double axis_low_ = -5;
  double axis_high_ = 5;
  double axis_step_ = 5;
};

}  // namespace app
