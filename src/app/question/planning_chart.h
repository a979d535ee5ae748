#pragma once

#include <qcustomplot.h>

#include "app/model/planning_model.h"

namespace app {

/// What each hour at the bench buys: the smallest change that a plan can see, a curve for each order. A click on a
/// curve chooses that plan; the plan as it stands is a ring, the threshold a line.
class PlanningChart final : public QCustomPlot {
  Q_OBJECT
 public:
  explicit PlanningChart(QWidget* parent = nullptr);
  void show(const PlanningView& view);
  void setChoosable(bool is_choosable) { is_choosable_ = is_choosable; }

 Q_SIGNALS:
  void chosen(const core::CandidatePlan& plan);

 protected:
  void mousePressEvent(QMouseEvent* event) override;

 private:
  void addCurve(const PlanningView::Curve& curve);
  void addThreshold(double threshold, const QString& unit);
  void addPoint(const core::CandidatePlan& plan, double size, const QString& name);
  std::vector<PlanningView::Curve> curves_;
  int suite_cases_ = 1;
  bool is_choosable_ = true;
};

}  // namespace app
