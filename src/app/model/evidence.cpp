#include "app/model/evidence.h"

#include "core/percent.h"

namespace app {
namespace {

QString tr(const char* text) { return QString::fromUtf8(text); }

QString estimatorText(const core::EstimatorChoice& design) {
  const auto counts = [&](int baseline, int changed) { return QStringLiteral("%1 + %2").arg(baseline).arg(changed); };
  switch (design.estimator) {
    case core::Estimator::Rounds: return tr("over %1 rounds").arg(design.complete_rounds);
    case core::Estimator::Visits:
      return tr("over visits, %1").arg(counts(design.visits_baseline, design.visits_changed));
    case core::Estimator::Passes: break;
  }
  return tr("over passes, one visit at a level");
}

void addHolds(Evidence& evidence, const core::Study& study, const core::CaseFinding& finding) {
  using core::HoldsTarget;
  if (finding.holds_baseline == HoldsTarget::DoesNotApply) return;
  const auto word = [](HoldsTarget holds) {
    return holds == HoldsTarget::Holds ? tr("yes") : holds == HoldsTarget::Fails ? tr("no") : tr("open");
  };
  evidence.rows.push_back(
      {tr("holds %1 FPS").arg(study.target_fps), word(finding.holds_baseline), word(finding.holds_changed), {}});
  if (const auto holds = finding.holdsOnlyAt()) {
    const core::Side other = *holds == core::Side::Baseline ? core::Side::Changed : core::Side::Baseline;
    evidence.remarks.push_back(tr("The target of %1 FPS is crossed: held at %2, not at %3.")
                                   .arg(study.target_fps)
                                   .arg(toQt(study.level(*holds).name), toQt(study.level(other).name)));
  }
}

void addHeadline(Evidence& evidence, const core::CaseFinding& finding) {
  const core::Effect& effect = *finding.effect;
  const std::string& unit = finding.metric.unit;
  evidence.rows.push_back({toQt(finding.metric.name + ", " + unit), toQt(core::numberText(effect.level_baseline, unit)),
                           toQt(core::numberText(effect.level_changed, unit)),
                           effect.is_log        ? toQt(core::percentText(finding.change.value))
                           : finding.difference ? toQt(core::differenceText(finding.difference->value, unit))
                                                : QString()});
  const auto before = core::asFps(effect.level_baseline, unit);
  const auto after = core::asFps(effect.level_changed, unit);
  if (before && after && finding.frame_ms_change)
    evidence.rows.push_back({tr("per frame, ms"), toQt(core::numberText(1000 / *before, "ms")),
                             toQt(core::numberText(1000 / *after, "ms")),
                             toQt(core::differenceText(*finding.frame_ms_change, "ms"))});
}

void addSecondary(Evidence& evidence, const core::CaseFinding& finding) {
  for (const core::SecondaryMetric& metric : finding.secondary) {
    const std::string unit = metric.unit == "FPS" || metric.unit.empty() ? "" : ", " + metric.unit;
    evidence.rows.push_back({toQt(metric.name + unit + (metric.isThin() ? " (thin)" : "")),
                             toQt(core::numberText(metric.baseline, "FPS")),
                             toQt(core::numberText(metric.changed, "FPS")),
                             metric.change ? toQt(core::percentText(metric.change->value)) : QString()});
  }
}

void addOpinions(Evidence& evidence, const core::Study& study, const core::CaseFinding& finding) {
  if (finding.by_band && finding.by_two_sds)
    evidence.remarks.push_back(tr("Other yardsticks: %1 by a fixed band of %2 %, %3 by two run-to-run sds (%4 %).")
                                   .arg(tr(core::standingName(*finding.by_band)))
                                   .arg(study.band_percent)
                                   .arg(tr(core::standingName(*finding.by_two_sds)))
                                   .arg(core::twoSdsPercent(finding.spread->pass_sd), 0, 'f', 2));
  if (const auto& second = finding.second_opinion) {
    const QString shift = finding.effect->is_log ? toQt(core::percentText(core::percentOfLn(second->shift)))
                                                 : toQt(core::differenceText(second->shift, finding.metric.unit));
    evidence.remarks.push_back(
        second->is_too_few_to_tell
            ? tr("Second opinion: median shift %1; too few for a permutation test (p at best %2).")
                  .arg(shift)
                  .arg(second->smallest_possible_p, 0, 'g', 2)
            : tr("Second opinion: median shift %1; permutation p %2 (at best %3).")
                  .arg(shift)
                  .arg(second->p, 0, 'g', 2)
                  .arg(second->smallest_possible_p, 0, 'g', 2));
  }
  if (finding.further)
    evidence.remarks.push_back(tr("With %1 more of each it would be expected to become: %2.")
                                   .arg(finding.further->further)
                                   .arg(tr(core::verdictName(finding.further->expected))));
  else if (finding.verdict == core::Verdict::NotSettled && finding.second_opinion)
    evidence.remarks.push_back(tr("Not even a hundred more would be expected to settle it."));
  const auto& [before, after] = finding.bound;
  if (before.bound != core::Bound::NotKnown || after.bound != core::Bound::NotKnown)
    evidence.remarks.push_back(tr("Bound at %1: %2 (%3). At %4: %5 (%6).")
                                   .arg(toQt(study.levels[0].name), tr(core::boundName(before.bound)),
                                        toQt(before.evidence), toQt(study.levels[1].name),
                                        tr(core::boundName(after.bound)), toQt(after.evidence)));
}

void addRemarks(Evidence& evidence, const core::Study& study, const core::CaseFinding& finding) {
  if (!finding.why_no_effect.empty()) evidence.remarks.push_back(toQt(finding.why_no_effect));
  if (!finding.effect) return;
  if (finding.spread)
    evidence.remarks.push_back(
        tr("Passes of one visit differ by %1 % (one sd).").arg(finding.spread->percent, 0, 'f', 2));
  addOpinions(evidence, study, finding);
  const auto tipping =
      finding.tipping_threshold_percent ? finding.tipping_threshold_percent : finding.tipping_zero_percent;
  if (tipping)
    evidence.remarks.push_back(
        tr("This holds unless changing the setting by itself moves the result by more than %1 % (sd).")
            .arg(*tipping, 0, 'f', 2));
  if (finding.metric.direction == core::Direction::LowerIsBetter && finding.effect->is_log)
    evidence.remarks.push_back(tr("A %1 that changes by %2 is a rate that changes by %3.")
                                   .arg(toQt(finding.metric.name), toQt(core::percentText(finding.change.value)),
                                        toQt(core::percentText(finding.improvement.value))));
  if (finding.failed > 0)
    evidence.remarks.push_back(tr("%1 failed and not in the result.")
                                   .arg(finding.failed == 1 ? tr("1 pass") : tr("%1 passes").arg(finding.failed)));
}

void addReadings(Evidence& evidence, const core::Study& study, const core::SuiteReadings& readings) {
  const auto add = [&](const core::SuiteReading& one) {
    evidence.remarks.push_back(tr("%1 (%2): %3, %4.")
                                   .arg(toQt(one.name))
                                   .arg(one.cases == 1 ? tr("1 case") : tr("%1 cases").arg(one.cases))
                                   .arg(toQt(core::changeText(one.improvement)), tr(core::verdictName(one.verdict))));
  };
  evidence.remarks.push_back(
      readings.has_no_loss_anywhere
          ? tr("No loss that matters anywhere; the lowest is %1.").arg(toQt(study.cases[readings.worst_case].title()))
          : tr("A loss that matters is not ruled out everywhere; the lowest is %1.")
                .arg(toQt(study.cases[readings.worst_case].title())));
  evidence.remarks.push_back(tr("%1 of %2 cases improved (sign test p %3; they share their flips).")
                                 .arg(readings.better)
                                 .arg(readings.moved)
                                 .arg(readings.sign_p, 0, 'g', 2));
  for (const auto* list : {&readings.presets, &readings.workloads, &readings.kinds, &readings.without_one})
    for (const core::SuiteReading& one : *list) add(one);
  if (readings.trend) add(*readings.trend);
  if (readings.without_bound_elsewhere) add(*readings.without_bound_elsewhere);
}

Evidence suiteEvidence(const core::Study& study, const core::Findings& findings) {
  Evidence evidence;
  evidence.title = tr("All %1 cases").arg(static_cast<int>(study.cases.size()));
  if (!findings.suite) return evidence;
  const core::SuiteFinding& suite = *findings.suite;
  evidence.subtitle = estimatorText(suite.summary.design);
  evidence.remarks = {
      tr("Geometric mean of the improvements, every case with the same weight: %1.")
          .arg(toQt(core::changeText(suite.improvement))),
      tr("For cases like these, of which these are a sample: %1.").arg(toQt(core::changeText(suite.cases_like_these))),
      tr("Arithmetic mean of the percentages, for comparison with published work only: %1.")
          .arg(toQt(core::percentText(suite.summary.arithmetic_mean_percent))),
      tr("Cases that run between two flips share them, so more cases do not narrow the interval; more visits do.")};
  if (findings.readings) addReadings(evidence, study, *findings.readings);
  return evidence;
}

}  // namespace

Evidence evidenceOf(const core::Study& study, const core::Findings& findings, std::optional<std::size_t> case_index,
                    const std::optional<core::Findings>& with_all) {
  if (!case_index || *case_index >= findings.cases.size()) return suiteEvidence(study, findings);
  const core::CaseFinding& finding = findings.cases[*case_index];
  Evidence evidence;
  evidence.title = toQt(finding.title);
  evidence.baseline_name = toQt(study.levels[0].name);
  evidence.changed_name = toQt(study.levels[1].name);
  evidence.subtitle = tr("%1 + %2 passes").arg(finding.counted_baseline).arg(finding.counted_changed);
  if (finding.effect) {
    evidence.subtitle += tr(", ") + estimatorText(finding.effect->design);
    addHeadline(evidence, finding);
    addSecondary(evidence, finding);
    addHolds(evidence, study, finding);
  }
  addRemarks(evidence, study, finding);
  if (with_all && with_all->cases[*case_index].counted_baseline + with_all->cases[*case_index].counted_changed !=
                      finding.counted_baseline + finding.counted_changed)
    evidence.remarks.push_back(
        tr("With every pass that was left out: %1.").arg(toQt(core::changeText(with_all->cases[*case_index].change))));
  return evidence;
}

}  // namespace app
