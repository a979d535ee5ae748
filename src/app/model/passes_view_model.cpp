#include "app/model/passes_view_model.h"

#include <cmath>

#include <algorithm>
#include <array>
#include <map>

#include "core/estimate/wording.h"
#include "core/judgement/pass_doubts.h"
#include "core/study/exclusion.h"
#include "core/values/median.h"
#include "core/values/percent.h"

namespace app {
namespace {

// Each pass against the middle of its own level: what differs between the levels is taken out.
void takeOutLevels(std::vector<PassView>& passes, const core::Study& study) {
  for (const core::ConfigurationId configuration : core::configurationsOf(study)) {
    std::vector<double> values;
    for (const PassView& pass : passes)
      if (pass.configuration == configuration && pass.is_counted) values.push_back(pass.value);
    if (values.empty()) continue;
    const double middle = core::medianOf(values);
    for (PassView& pass : passes)
      if (pass.configuration == configuration && middle != 0) pass.percent_off = 100 * (pass.value / middle - 1);
  }
}

}  // namespace

QStringList exclusionCauses() {
  QStringList causes;
  for (const char* cause : core::kExclusionCauses) causes << QString::fromUtf8(cause);
  return causes;
}

std::vector<PassView> PassesViewModel::passes(std::size_t case_index) const {
  std::vector<PassView> views;
  if (!study_.hasStudy() || case_index >= study_.judgement().findings.cases.size()) return views;
  const core::CaseFinding& finding = study_.judgement().findings.cases[case_index];
  const core::BenchClock clock = store::benchClockOf(study_.session().recorded());
  for (const core::Pass& pass : study_.session().recorded().passes) {
    const core::Slot& slot = study_.session().open().schedule()[pass.slot];
    if (slot.case_index != case_index || !pass.value) continue;
    PassView view;
    view.id = pass.id;
    view.clock_s = static_cast<double>(pass.started_ms) / 1000;
    view.clock = clockText(pass.started_ms);
    if (const QString here = clockText(clock.atDesk(pass.started_ms)); here != view.clock)
      view.clock = tr("%1 (%2 here)").arg(view.clock, here);
    view.value = *pass.value;
    view.configuration = slot.configuration;
    view.visit = slot.visit;
    view.title =
        tr("visit %1, %2 %3").arg(slot.visit).arg(slot.is_warm_up ? tr("warm-up") : tr("pass")).arg(slot.number);
    view.is_excluded = !pass.excluded_because.empty();
    view.is_counted = study_.judgement().findings.counted.contains(pass.id);
    view.is_odd = std::find(finding.odd_passes.begin(), finding.odd_passes.end(), pass.id) != finding.odd_passes.end();
    QStringList remarks;
    if (slot.is_warm_up) remarks << tr("never counts");
    if (view.is_excluded) remarks << tr("left out: %1").arg(toQt(pass.excluded_because));
    if (!view.is_counted && !view.is_excluded && !slot.is_warm_up)
      remarks << tr("does not count: its visit is not comparable, or another attempt stands for it");
    if (view.is_odd) remarks << tr("far from its level's other passes");
    if (pass.others_busy_percent.value_or(0) > core::kQuietPercent)
      remarks << tr("others used %1 % of a core").arg(*pass.others_busy_percent, 0, 'f', 0);
    if (pass.throttled.value_or(0) > 0) remarks << tr("a limit set in");
    view.remark = remarks.join(QStringLiteral("; "));
    views.push_back(std::move(view));
  }
  takeOutLevels(views, study_.study());
  return views;
}

std::vector<VisitBand> PassesViewModel::bands() const {
  std::vector<VisitBand> bands;
  if (!study_.hasStudy()) return bands;
  const store::Recorded& recorded = study_.session().recorded();
  std::map<std::int64_t, double> ends_s;  // by visit
  for (const core::Pass& pass : recorded.passes) {
    double& end_s = ends_s[pass.visit_id];
    end_s = std::max(end_s, static_cast<double>(pass.started_ms) / 1000 + pass.duration_s);
  }
  for (const core::Visit& visit : recorded.visits) {
    const VisitBand band{static_cast<double>(visit.started_ms) / 1000, ends_s[visit.id], visit.planned,
                         visit.configuration};
    if (band.end_s > band.begin_s) bands.push_back(band);
  }
  return bands;
}

QStringList PassesViewModel::cases() const {
  QStringList titles;
  if (!study_.hasStudy()) return titles;
  for (const core::Case& a_case : study_.study().cases) titles << toQt(a_case.title() + " · " + a_case.metric.name);
  return titles;
}

// What a drift looks like a change of, in the order of the passes.
static QString pretended(const core::Drift& drift) {
  const auto percent = [](double ln) { return toQt(core::percentText(core::percentOfLn(ln))); };
  constexpr double kNothing = 5e-5;  // 0.00 % in print
  if (std::abs(drift.biasLo()) < kNothing && std::abs(drift.biasHi()) < kNothing) return tr("nothing");
  return tr("%1 to %2").arg(percent(drift.biasLo()), percent(drift.biasHi()));
}

// Over the study's own span: an hour that nobody measured says nothing.
static QString driftText(const core::Drift& drift) {
  const auto over = [&](double per_hour) { return core::percentOfLn(per_hour * drift.span_hours); };
  const core::PercentChange change{over(drift.per_hour), core::PercentInterval{over(drift.lo), over(drift.hi)}};
  const QString span = toQt(core::durationText(3600 * drift.span_hours));
  return drift.is_flagged
             ? PassesViewModel::tr("It drifts by %1 over the %2 of the study; with this order that could fake %3.")
                   .arg(toQt(core::percentText(change.value)), span, pretended(drift))
             : PassesViewModel::tr("No drift is seen (%1 % over the %2 of the study).")
                   .arg(toQt(core::intervalText(change)), span);
}

QStringList PassesViewModel::remarks(std::size_t case_index) const {
  QStringList remarks;
  if (!study_.hasStudy() || case_index >= study_.judgement().findings.cases.size()) return remarks;
  const core::CaseFinding& finding = study_.judgement().findings.cases[case_index];
  if (finding.spread)
    remarks << tr("Passes of one visit differ by %1 % (one sd).").arg(finding.spread->percent, 0, 'f', 2);
  if (finding.drift && finding.drift->is_estimable)
    remarks << driftText(*finding.drift);
  else if (finding.drift && finding.drift->visits > 0)
    remarks << tr("Drift cannot be told from the change in this order.");
  if (finding.warm_up && finding.warm_up->inference)
    remarks << tr("The first pass of a visit differs by %1 from the others.")
                   .arg(toQt(
                       core::changeText({core::percentOfLn(*finding.warm_up->difference),
                                         core::PercentInterval{core::percentOfLn(finding.warm_up->inference->lo),
                                                               core::percentOfLn(finding.warm_up->inference->hi)}})));
  return remarks;
}

QString PassesViewModel::progress() const {
  const core::Findings& found = study_.judgement().findings;
  if (found.recorded_passes == 0) return tr("none yet");
  const QString passes = found.recorded_passes == 1 ? tr("1 pass") : tr("%1 passes").arg(found.recorded_passes);
  return found.excluded_passes == 0 ? passes : passes + tr(", %1 left out").arg(found.excluded_passes);
}

}  // namespace app
