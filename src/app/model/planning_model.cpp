#include "app/model/planning_model.h"

#include <QDateTime>
#include <algorithm>

#include <fmt/format.h>

#include "core/record/preparations.h"
#include "core/study/look_confidences.h"
#include "session/study/planning_basis.h"

namespace app {
namespace {

QString noiseWords(const std::optional<store::BenchRegister::Noise>& measured) {
  if (!measured) return tr("Spreads of passes and flips are guessed; a null study measures them.");
  const core::NullStudy& noise = measured->measured.noise;
  if (measured->measured.isPilot())
    return tr("Passes differ by %1 %, by the study of %2; what flips add is guessed.")
        .arg(100 * noise.pass_sd.value_or(0), 0, 'f', 2)
        .arg(QDateTime::fromMSecsSinceEpoch(measured->at_ms).toString(QStringLiteral("yyyy-MM-dd")));
  return tr("Spreads from the null study of %1 (%2): %3 % from pass to pass, %4 % from flips%5.")
      .arg(QDateTime::fromMSecsSinceEpoch(measured->at_ms).toString(QStringLiteral("yyyy-MM-dd")),
           toQt(measured->measured.title))
      .arg(100 * noise.pass_sd.value_or(0), 0, 'f', 2)
      .arg(100 * noise.flip_sd, 0, 'f', 2)
      .arg(noise.isUsable() ? QString() : tr("; it has fewer than six visits"));
}

// Of the suite, and of each of its cases, told apart: a claim on one of many must stand among so many.
QString chances(const core::CandidatePlan& plan, const core::PlanningOrder& planning) {
  const auto& unit = planning.aim.unit;
  const double threshold = unit ? unit->threshold : planning.aim.threshold_percent;
  const double twice = unit ? 2 * threshold : 2 * threshold + threshold * threshold / 100;
  const QString in = unit ? toQt(unit->unit) : QStringLiteral("%");
  const auto number = [](double value) {
    return toQt(value < 10 ? fmt::format("{:.2g}", value) : fmt::format("{:.0f}", value));
  };
  const auto share = [](double chance) { return toQt(fmt::format("{:.0f}", 100 * chance)); };
  QString text = tr("Of 100 such studies %1 tell a true %2 %6 from zero, %3 call a true %4 %6 a gain, %5 call 0 %6 no "
                    "difference that matters")
                     .arg(share(plan.value.power), number(threshold), share(plan.value.chance_gain), number(twice),
                          share(plan.value.chance_nothing_matters), in);
  if (plan.each)
    text += tr("; that is the suite. Of each of its %1 cases: %2, %3 and %4")
                .arg(planning.suite_cases)
                .arg(share(plan.each->power), share(plan.each->chance_gain), share(plan.each->chance_nothing_matters));
  if (planning.aim.cases > 1) text += tr("; that is each of %1 cases").arg(planning.aim.cases);
  return text + QLatin1Char('.');
}

QString endsAt(std::int64_t begin_ms, double minutes) {
  const QDateTime begin = QDateTime::fromMSecsSinceEpoch(begin_ms);
  const QDateTime end = begin.addSecs(static_cast<qint64>(60 * minutes));
  const qint64 days = begin.date().daysTo(end.date());
  constexpr qint64 kWeek = 7;  // from then on a weekday could be another one
  return end.toString(days == 0      ? QStringLiteral("HH:mm")
                      : days < kWeek ? QStringLiteral("ddd HH:mm")
                                     : QStringLiteral("yyyy-MM-dd HH:mm"));
}

std::vector<PlanningView::Curve> curvesOf(const PlanningView& view) {
  const core::Plan& plan = view.study.plan;
  const auto orders = plan.is_one_way
                          ? std::vector{core::Order::Blocked}
                          : std::vector{core::Order::Blocked, core::Order::ThereAndBack, core::Order::BalancedShuffle};
  std::vector<PlanningView::Curve> curves;
  for (const core::Order order : orders) {
    curves.push_back({order, core::candidatesOf(order, plan.passes_per_visit, view.planning, view.most_minutes)});
    PlanningView::Curve& curve = curves.back();
    if (order != core::Order::BalancedShuffle || view.planning.suite_cases < 2) continue;  // one such curve can be read
    for (const core::CandidatePlan& one : curve.plans)
      curve.of_each.push_back(core::smallestOfEach(one, view.planning));
  }
  return curves;
}

PlanningView viewOf(const core::Study& study, const session::PlanningBasis& basis) {
  PlanningView view;
  view.study = study;
  view.planning = basis.planning;
  const auto& unit = view.planning.aim.unit;
  view.threshold = unit ? unit->threshold : view.planning.aim.threshold_percent;
  view.unit = unit ? toQt(unit->unit) : QStringLiteral("%");
  view.noise = noiseWords(basis.measured);
  view.is_pass_spread_measured = basis.measured.has_value();
  view.is_flip_spread_measured = basis.measured && !basis.measured->measured.isPilot();
  view.current = session::currentPlan(study.plan, view.planning);
  view.current_cost = toQt(core::costText(view.current));
  view.current_text = toQt(core::reasonFor(view.current, view.planning));
  if (view.current.null_visits > 0) view.current_text += tr(". First make the null study (Study menu)");
  view.current_chances = chances(view.current, view.planning);
  if (view.threshold > 0) view.proposed = core::cheapestPlan(view.planning);
  view.proposed_text =
      view.proposed ? toQt(core::reasonFor(*view.proposed, view.planning)) : tr(core::noPlanText(view.planning, false));
  if (study.shape == core::Shape::Crossed)
    for (const core::Variable& one : study.variables)
      if (const auto offer = core::groupingOffer(study, one.name, view.planning)) view.groupings << toQt(*offer);
  view.look_price = toQt(core::lookPriceText(study));
  if (const auto offer = core::spreadOffer(study, view.planning)) view.spread_offer = toQt(*offer);
  view.most_minutes = 1.6 * std::max(view.current.minutes, view.proposed ? view.proposed->minutes : 0);
  view.curves = curvesOf(view);
  return view;
}

bool restsOn(const PlanningView& view, const core::Study& study, const session::PlanningBasis& basis) {
  return view.study == study && view.planning == basis.planning && view.noise == noiseWords(basis.measured);
}

}  // namespace

PlanningView planningView(const StudyModel& model, std::optional<PlanningView> known) {
  const core::Study& study = model.study();
  const auto basis = session::planningBasis(study, model.benches(), model.session().machine().registeredName());
  PlanningView view = known && restsOn(*known, study, basis) ? *std::move(known) : viewOf(study, basis);
  view.current_end.clear();
  view.preparations.clear();
  if (!model.whyLocked().isEmpty() || core::isUnasked(study.variable())) return view;  // begun, or not yet asked
  view.current_end = endsAt(model.session().open().now(), view.current.minutes);
  for (const std::string& one : core::preparationsFor(study)) view.preparations << toQt(one);
  return view;
}

std::optional<core::CandidatePlan> planWithin(const StudyModel& model, double minutes) {
  const auto [planning, measured] =
      session::planningBasis(model.study(), model.benches(), model.session().machine().registeredName());
  return core::bestWithin(minutes, planning);
}

}  // namespace app
