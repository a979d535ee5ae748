#pragma once

#include <QWidget>

#include "app/model/planning_model.h"

class QLabel;
class QPushButton;

namespace app {

class PlanningChart;

/// What the plan costs and buys, always in sight beside the question: the chart of what each hour buys, the plan as it
/// stands, and the cheapest that is enough.
class PlanOutlook final : public QWidget {
  Q_OBJECT
 public:
  explicit PlanOutlook(QWidget* parent = nullptr);
  void load(const PlanningView& view, bool can_edit);

 Q_SIGNALS:
  /// A person wants this plan.
  void chosen(const core::CandidatePlan& plan);

 private:
  std::optional<core::CandidatePlan> proposed_plan_;
  PlanningChart* chart_;
  QLabel* noise_;
  QLabel* current_;
  QLabel* chances_;
  QLabel* proposed_;
  QPushButton* take_;
  QLabel* prepare_title_;
  QLabel* prepare_;
};

}  // namespace app
