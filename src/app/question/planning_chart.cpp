#include "app/question/planning_chart.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "app/shell/plot_style.h"
#include "app/shell/theme.h"

namespace app {
namespace {

double hours(const core::CandidatePlan& plan) { return plan.minutes / 60; }

// Told by line and by a name at its end, not by colour alone.
QPen penOf(core::Order order) {
  switch (order) {
    case core::Order::Blocked: return QPen(theme().soft_ink, 1.5, Qt::DotLine);
    case core::Order::ThereAndBack: return QPen(theme().soft_ink, 1.5, Qt::DashLine);
    case core::Order::BalancedShuffle: return QPen(theme().changed, 2.5);
  }
  return {};
}

QString nameOf(core::Order order) {
  switch (order) {
    case core::Order::Blocked: return PlanningChart::tr("blocked");
    case core::Order::ThereAndBack: return PlanningChart::tr("there and back");
    case core::Order::BalancedShuffle: return PlanningChart::tr("rounds");
  }
  return {};
}

// As high as what there is to see, and no higher than five thresholds: what is far from them is not worth looking at.
double mostPercent(const PlanningView& view) {
  double highest = std::max(view.threshold, view.current.smallest_detectable);
  for (const PlanningView::Curve& curve : view.curves) {
    for (const core::CandidatePlan& plan : curve.plans) highest = std::max(highest, plan.smallest_detectable);
    for (const double of_each : curve.of_each) highest = std::max(highest, of_each);
  }
  constexpr double kRoom = 1.1;
  const double five = view.threshold > 0 ? 5 * view.threshold : kRoom * highest;
  return std::max(1e-3, std::min(five, kRoom * highest));
}

}  // namespace

PlanningChart::PlanningChart(QWidget* parent) : QCustomPlot(parent) {
  setObjectName(QStringLiteral("planningChart"));
  setAccessibleName(tr("What each hour at the bench buys"));
  setToolTip(tr("A click on a curve chooses that plan"));
  setMinimumHeight(90);
  axisRect()->setAutoMargins(QCP::msLeft | QCP::msBottom);
  axisRect()->setMargins(QMargins(0, 6, 8, 0));
  // The key stands above what is drawn, never over it.
  axisRect()->insetLayout()->take(legend);
  plotLayout()->insertRow(0);
  plotLayout()->addElement(0, 0, legend);
  plotLayout()->setRowStretchFactor(0, 0.001);
  plotLayout()->setRowSpacing(0);
}

void PlanningChart::show(const PlanningView& view) {
  curves_ = view.curves;
  suite_cases_ = view.planning.suite_cases;
  clearGraphs();
  clearItems();
  stylePlot(*this);
  setBackground(theme().paper);
  legend->setVisible(true);
  legend->setBrush(Qt::NoBrush);
  legend->setBorderPen(Qt::NoPen);
  legend->setFont(textFont(TextSize::Small));
  legend->setTextColor(theme().soft_ink);
  legend->setFillOrder(QCPLayoutGrid::foColumnsFirst);
  legend->setWrap(3);  // the curves, and below them what else there is
  legend->setMargins(QMargins(0, 0, 0, 0));
  legend->setIconSize(20, 14);
  const double most_hours = view.most_minutes / 60;
  for (QCPAxis* axis : {xAxis, yAxis}) {
    axis->grid()->setPen(Qt::NoPen);
    axis->grid()->setZeroLinePen(Qt::NoPen);
    axis->setLabelPadding(2);
  }
  xAxis->setLabel(tr("hours at the bench"));
  yAxis->setLabel(tr("smallest detectable change, %1").arg(view.unit));
  xAxis->setRange(0, most_hours);
  yAxis->setRange(0, mostPercent(view));
  for (const PlanningView::Curve& curve : view.curves) addCurve(curve);
  addPoint(view.current, 11, tr("this plan"));
  if (view.proposed) addPoint(*view.proposed, 5, tr("cheapest that is enough"));
  addThreshold(view.threshold, view.unit);
  setAccessibleDescription(view.current_text + QStringLiteral(". ") + view.proposed_text);
  replot(QCustomPlot::rpQueuedReplot);
}

void PlanningChart::addCurve(const PlanningView::Curve& curve) {
  if (curve.plans.empty()) return;
  QCPGraph* graph = addGraph();
  graph->setPen(penOf(curve.order));
  if (curve.plans.size() == 1)
    graph->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssSquare, 5));  // no line shows it
  for (const core::CandidatePlan& plan : curve.plans) graph->addData(hours(plan), plan.smallest_detectable);
  graph->setName(curve.plans.front().value.is_flip_unseen ? tr("blocked, flips unseen") : nameOf(curve.order));
  if (curve.of_each.empty()) return;
  QCPGraph* each = addGraph();
  each->setPen(QPen(penOf(curve.order).color(), 1));
  if (curve.plans.size() == 1) each->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssSquare, 4));
  for (std::size_t i = 0; i < curve.plans.size(); ++i) each->addData(hours(curve.plans[i]), curve.of_each[i]);
  each->setName(
      tr("%1, each of %2 cases").arg(nameOf(curve.order), QString::fromStdString(std::to_string(suite_cases_))));
}

void PlanningChart::addThreshold(double threshold, const QString& unit) {
  QCPGraph* graph = addGraph();
  graph->setPen(QPen(theme().ink, 1));
  graph->setName(tr("threshold, %1\u00A0%2").arg(QString::fromStdString(fmt::format("{:.3g}", threshold)), unit));
  for (const double end : {xAxis->range().lower, xAxis->range().upper}) graph->addData(end, threshold);
}

void PlanningChart::addPoint(const core::CandidatePlan& plan, double size, const QString& name) {
  QCPGraph* graph = addGraph();
  graph->setName(name);
  graph->setLineStyle(QCPGraph::lsNone);
  graph->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCircle, QPen(theme().changed, 2),
                                         size > 8 ? QBrush(Qt::NoBrush) : QBrush(theme().changed), size));
  graph->addData(hours(plan), std::min(plan.smallest_detectable, yAxis->range().upper));
}

void PlanningChart::mousePressEvent(QMouseEvent* event) {
  const core::CandidatePlan* nearest = nullptr;
  double least = 24;  // pixels: a click far from every curve chooses nothing
  for (const PlanningView::Curve& curve : curves_)
    for (const core::CandidatePlan& plan : curve.plans) {
      const double dx = xAxis->coordToPixel(hours(plan)) - event->position().x();
      const double dy = yAxis->coordToPixel(plan.smallest_detectable) - event->position().y();
      const double distance = std::hypot(dx, dy);
      if (distance >= least) continue;
      least = distance;
      nearest = &plan;
    }
  if (nearest && is_choosable_) Q_EMIT chosen(*nearest);
}

}  // namespace app
