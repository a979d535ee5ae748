#include "app/model/evidence.h"

#include <fmt/format.h>

#include "app/model/evidence_parts.h"
#include "core/estimate/wording.h"
#include "core/findings/presets_held.h"
#include "core/findings/result_row.h"
#include "core/findings/rounds_left_out.h"
#include "core/judgement/claim.h"
#include "core/values/percent.h"

namespace app {
namespace {

QString estimatorText(const core::EstimatorChoice& design) {
  const auto counts = [&](int baseline, int changed) { return QStringLiteral("%1 + %2").arg(baseline).arg(changed); };
  switch (design.estimator) {
    case core::Estimator::Rounds: return tr("over %1 rounds").arg(design.complete_rounds);
    case core::Estimator::Visits: return tr("over visits, %1").arg(counts(design.visits[0], design.visits[1]));
    case core::Estimator::Passes: break;
  }
  const bool is_blocked = design.visits[0] == 1 && design.visits[1] == 1;
  return is_blocked ? tr("over passes, blocked") : tr("over passes: a level has a single visit that counts");
}

QString furtherText(core::Estimator estimator, int further) {
  switch (estimator) {
    case core::Estimator::Rounds: return tr("%1 more rounds").arg(further);
    case core::Estimator::Visits: return tr("%1 more visits at each level").arg(further);
    case core::Estimator::Passes: break;
  }
  return tr("%1 more passes at each level").arg(further);
}

QString holdsWord(core::HoldsTarget holds) {
  return holds == core::HoldsTarget::Holds ? tr("yes") : holds == core::HoldsTarget::Fails ? tr("no") : tr("open");
}

// A change with its interval on a line of its own: narrow enough to stand beside two levels.
QString overInterval(const core::PercentChange& change) {
  const QString text = toQt(core::changeText(change));
  return QString(text).replace(QStringLiteral(" ("), QStringLiteral("\n("));
}

// A metric's name with its unit, where the name does not say it already.
QString withUnit(const core::Metric& metric) {
  const QString name = toQt(metric.name);
  const QString unit = toQt(metric.unit);
  return unit.isEmpty() || name.endsWith(unit) ? name : name + QStringLiteral(", ") + unit;
}

// The evidence of one case, part by part.
class CaseEvidence {
 public:
  CaseEvidence(const core::Study& study, const core::Judgement& judgement, const core::CaseFinding& finding)
      : study_(study), judgement_(judgement), finding_(finding) {
    const core::Study& pair = judgement.pair_study;
    levels_ = {QString(), toQt(pair.nameOf(core::ConfigurationId::Baseline)),
               toQt(pair.nameOf(core::ConfigurationId::Changed)), tr("change")};
  }

  Evidence all() {
    evidence_.title = toQt(finding_.title);
    evidence_.subtitle = tr("%1 + %2 passes").arg(finding_.counted_baseline).arg(finding_.counted_changed);
    evidence_.table = {levels_, {}, true};
    if (!finding_.why_no_effect.empty()) evidence_.remarks << toQt(finding_.why_no_effect);
    if (finding_.effect) {
      evidence_.subtitle += tr(", ") + estimatorText(finding_.effect->design);
      evidence_.sentence = sentence();
      if (finding_.why_no_effect.empty()) evidence_.verdict = QString::fromUtf8(core::verdictName(finding_.verdict));
      addHeadline();
      addTarget();
      addDirection();
      addLows();
      addBound();
      addCertainty();
    }
    addExplanations();
    addPasses();
    return std::move(evidence_);
  }

 private:
  [[nodiscard]] QString sentence() const {
    const QString verdict = toQt(core::verdictText(finding_));
    if (finding_.effect->is_log) return tr("%1: %2").arg(toQt(core::changeText(finding_.improvement)), verdict);
    if (!finding_.difference) return verdict;
    return tr("%1: %2").arg(toQt(core::unitChangeText(*finding_.difference, finding_.metric.unit)), verdict);
  }

  void addHeadline() {
    const core::Effect& effect = *finding_.effect;
    const std::string& unit = finding_.metric.unit;
    const QString change = effect.is_log         ? toQt(core::percentText(finding_.change.value))
                           : finding_.difference ? toQt(core::differenceText(finding_.difference->value, unit))
                                                 : QString();
    evidence_.table.rows.push_back({withUnit(finding_.metric), toQt(core::numberText(effect.level_baseline, unit)),
                                    toQt(core::numberText(effect.level_changed, unit)), change});
    const auto before = core::asFps(effect.level_baseline, unit);
    const auto after = core::asFps(effect.level_changed, unit);
    if (!before || !after || !finding_.frame_ms_change) return;
    evidence_.table.rows.push_back({tr("ms per frame"), toQt(core::numberText(1000 / *before, "ms")),
                                    toQt(core::numberText(1000 / *after, "ms")),
                                    toQt(core::differenceText(*finding_.frame_ms_change, "ms"))});
    if (finding_.fps_gained)
      evidence_.table.rows.push_back({tr("gained, FPS"), {}, {}, toQt(core::differenceText(*finding_.fps_gained, ""))});
  }

  // A target that is crossed is named first of all.
  void addTarget() {
    using core::HoldsTarget;
    if (finding_.holds_baseline == HoldsTarget::DoesNotApply) return;
    evidence_.table.rows.push_back({tr("reaches %1 FPS").arg(study_.target_fps),
                                    holdsWord(finding_.holds_baseline),
                                    holdsWord(finding_.holds_changed),
                                    {}});
    const auto needed = [](const std::optional<core::PercentChange>& one) {
      return one ? toQt(core::changeText(*one)) : tr("nothing");
    };
    if (finding_.needed[0] || finding_.needed[1])
      evidence_.table.rows.push_back(
          {tr("still needed for it"), needed(finding_.needed[0]), needed(finding_.needed[1]), {}});
    for (const core::FurtherTarget& one : finding_.further_targets)
      evidence_.table.rows.push_back(
          {tr("reaches %1 FPS").arg(one.fps), holdsWord(one.holds[0]), holdsWord(one.holds[1]), {}});
    const auto holds = finding_.holdsOnlyAt();
    if (!holds) return;
    const core::ConfigurationId other =
        *holds == core::ConfigurationId::Baseline ? core::ConfigurationId::Changed : core::ConfigurationId::Baseline;
    evidence_.remarks.prepend(
        tr("The target of %1 FPS is crossed: reached at %2, not at %3.")
            .arg(study_.target_fps)
            .arg(toQt(judgement_.pair_study.nameOf(*holds)), toQt(judgement_.pair_study.nameOf(other))));
  }

  void addDirection() {
    if (finding_.metric.direction == core::Direction::LowerIsBetter && finding_.effect->is_log)
      evidence_.remarks << tr("A %1 that changes by %2 is a rate that changes by %3.")
                               .arg(toQt(finding_.metric.name), toQt(core::percentText(finding_.change.value)),
                                    toQt(core::percentText(finding_.improvement.value)));
  }

  void addLows() {
    Evidence::Part part{QStringLiteral("lows"), tr("Lows, targets, long frames"), {}, {levels_, {}, true}, {}};
    part.table.columns[3] = tr("change, %1 %").arg(confidence());
    for (const core::SecondaryMetric& metric : finding_.secondary) {
      const std::string unit = metric.unit == "FPS" || metric.unit.empty() ? "" : ", " + metric.unit;
      part.table.rows.push_back({toQt(metric.name + unit + (metric.isThin() ? " (fewer than 10 frames)" : "")),
                                 toQt(core::numberText(metric.baseline, "FPS")),
                                 toQt(core::numberText(metric.changed, "FPS")),
                                 metric.change ? overInterval(*metric.change)
                                               : toQt(core::differenceText(metric.changed - metric.baseline, ""))});
    }
    if (part.table.rows.empty()) return;
    const core::SecondaryMetric& low = finding_.secondary.front();
    if (low.holds[0] != core::HoldsTarget::DoesNotApply)
      part.remarks << tr("Reaches %1 FPS with its %2: %3 at %4, %5 at %6.")
                          .arg(study_.target_fps)
                          .arg(toQt(low.name), holdsWord(low.holds[0]), levels_[1], holdsWord(low.holds[1]),
                               levels_[2]);
    if (finding_.areStuttersUnlike())
      part.remarks
          << tr("Stutters are told against the median frame, which changed by %1: go by the frames over 25, 50 "
                "and 100 ms.")
                 .arg(toQt(core::percentText(finding_.median_frame_percent)));
    part.brief = tr("in three ways");
    evidence_.parts.push_back(std::move(part));
  }

  // A guessed cause is no result: it stands with its grade, whoever gave it.
  void addExplanations() {
    for (const core::Explanation& one : judgement_.explanations)
      if (one.case_title == finding_.title) evidence_.remarks << toQt(one.sentence()) + QLatin1Char('.');
  }

  void addBound() {
    const auto& [before, after] = finding_.bound;
    if (before.bound == core::Bound::NotKnown && after.bound == core::Bound::NotKnown) return;
    Evidence::Part part{QStringLiteral("bound"), tr("What bounded it"), tr(core::boundName(after.bound)), {}, {}};
    part.remarks << tr("At %1: %2.").arg(levels_[1], toQt(core::boundText(before)))
                 << tr("At %1: %2.").arg(levels_[2], toQt(core::boundText(after)));
    if (finding_.is_bound_elsewhere) part.remarks << tr("It cannot show what was changed.");
    evidence_.parts.push_back(std::move(part));
  }

  void addCertainty() {
    Evidence::Part part{QStringLiteral("certainty"), tr("How sure, by other yardsticks"), {}, {}, {}};
    if (finding_.spread)
      part.remarks << tr("Passes of one visit differ by %1 % (one sd).").arg(finding_.spread->percent, 0, 'f', 2);
    if (finding_.by_band && finding_.by_two_sds) {
      part.remarks << tr("%1 by a fixed band of %2 %, %3 by two run-to-run sds (%4 %).")
                          .arg(tr(core::standingName(*finding_.by_band)))
                          .arg(study_.band_percent)
                          .arg(tr(core::standingName(*finding_.by_two_sds)))
                          .arg(core::twoSdsPercent(finding_.spread->pass_sd), 0, 'f', 2);
      part.remarks.last()[0] = part.remarks.last()[0].toUpper();
    }
    addSecondOpinion(part);
    const auto tipping =
        finding_.tipping_threshold_percent ? finding_.tipping_threshold_percent : finding_.tipping_zero_percent;
    if (tipping)
      part.remarks << tr("This holds unless each flip alone shifts the bench at random by more than %1 % (sd).")
                          .arg(*tipping, 0, 'f', 2);
    if (finding_.further)
      part.remarks << tr("With %1 the verdict would probably be: %2.")
                          .arg(furtherText(finding_.effect->design.estimator, finding_.further->further))
                          .arg(tr(core::verdictName(finding_.further->expected)));
    else if (finding_.verdict == core::Verdict::NotSettled && finding_.second_opinion)
      part.remarks << tr("Not even a hundred more would be expected to settle it.");
    if (!part.remarks.isEmpty()) evidence_.parts.push_back(std::move(part));
  }

  void addSecondOpinion(Evidence::Part& part) const {
    if (!finding_.second_opinion) return;
    const core::SecondOpinion& second = *finding_.second_opinion;
    const QString shift = finding_.effect->is_log ? toQt(core::percentText(core::percentOfLn(second.shift)))
                                                  : toQt(core::differenceText(second.shift, finding_.metric.unit));
    part.remarks
        << (second.is_too_few_to_tell
                ? tr("Second opinion: median shift %1; too few for a permutation test (smallest possible p %2).")
                      .arg(shift)
                      .arg(second.smallest_possible_p, 0, 'g', 2)
                : tr("Second opinion: median shift %1; permutation %2 (smallest possible p %3).")
                      .arg(shift)
                      .arg(toQt(core::pText(second.p)))
                      .arg(second.smallest_possible_p, 0, 'g', 2));
    part.brief = second.is_too_few_to_tell ? QString() : tr("permutation %1").arg(toQt(core::pText(second.p)));
  }

  void addPasses() {
    Evidence::Part part{QStringLiteral("passes"), tr("What it rests on"), {}, {}, {}};
    part.brief = toQt(core::countText(static_cast<int>(finding_.counted.size()), "pass", "passes"));
    QStringList names;
    for (const std::int64_t id : finding_.counted) names << passName(id);
    if (!names.isEmpty()) part.remarks << tr("Counted: %1.").arg(names.join(QStringLiteral("; ")));
    std::map<std::string, QStringList> by_reason;
    for (const core::LeftOut& one : finding_.left_out) by_reason[one.why] << passName(one.pass_id);
    for (const auto& [why, passes] : by_reason)
      part.remarks << tr("Not counted, %1: %2.").arg(toQt(why), passes.join(QStringLiteral("; ")));
    if (const std::string rounds = core::roundsLeftOutText(finding_); !rounds.empty()) part.remarks << toQt(rounds);
    const auto& with_all = judgement_.with_all;
    if (with_all && with_all->cases[finding_.case_index].counted.size() != finding_.counted.size())
      part.remarks << tr("With every pass that was left out: %1.")
                          .arg(toQt(core::changeOf(with_all->cases[finding_.case_index])));
    const core::Case& a_case = study_.cases[finding_.case_index];
    part.remarks << tr("Judged by a threshold of %1 at %2 % confidence; first %3 s and last %4 s of a pass trimmed.")
                        .arg(toQt(finding_.difference ? core::valueText(finding_.metric.threshold, finding_.metric.unit)
                                                      : core::thresholdText(finding_.threshold)))
                        .arg(confidence())
                        .arg(a_case.trim_first_s)
                        .arg(a_case.trim_last_s)
                 << tr("Iron Lever %1.").arg(QStringLiteral(IRON_LEVER_VERSION));
    evidence_.parts.push_back(std::move(part));
  }

  // As it is called everywhere: "visit 3, pass 2".
  [[nodiscard]] QString passName(std::int64_t id) const { return toQt(judgement_.pass_names.of(id)); }

  [[nodiscard]] QString confidence() const { return toQt(fmt::format("{:.4g}", 100 * judgement_.findings.confidence)); }

  const core::Study& study_;
  const core::Judgement& judgement_;
  const core::CaseFinding& finding_;
  QStringList levels_;
  Evidence evidence_;
};

Evidence::Part readingsPart(const char* id, const QString& title, const std::vector<core::SuiteReading>& readings) {
  Evidence::Part part{QString::fromUtf8(id), title, {}, {{QString(), tr("cases"), tr("improvement")}, {}, false}, {}};
  for (const core::SuiteReading& one : readings)
    part.table.rows.push_back(
        {toQt(one.name), toQt(fmt::format("{}", one.cases)), toQt(core::changeText(one.improvement))});
  return part;
}

Evidence::Part presetsPart(const core::Study& study, const core::Findings& findings) {
  Evidence::Part part{QStringLiteral("presets_held"),
                      tr("Costliest preset that reaches %1 FPS").arg(study.target_fps),
                      {},
                      {{QString(), toQt(study.nameOf(core::ConfigurationId::Baseline)),
                        toQt(study.nameOf(core::ConfigurationId::Changed))},
                       {},
                       true},
                      {}};
  const auto preset = [&](const std::optional<std::size_t>& of_case) {
    return of_case ? toQt(study.cases[*of_case].variant()) : tr("none");
  };
  int crossed = 0;
  for (const core::PresetsHeld& held : core::presetsHeld(study, findings)) {
    crossed += held.isCrossed();
    part.table.rows.push_back(
        {toQt(held.workload) + tr(", average"), preset(held.by_average[0]), preset(held.by_average[1])});
    if (!held.low.empty())
      part.table.rows.push_back(
          {toQt(held.workload + ", " + held.low), preset(held.with_low[0]), preset(held.with_low[1])});
  }
  if (crossed > 0)
    part.brief = crossed == 1 ? tr("differs for 1 workload") : tr("differs for %1 workloads").arg(crossed);
  return part;
}

void addReadings(Evidence& evidence, const core::Study& study, const core::SuiteReadings& readings) {
  evidence.remarks << tr("The lowest is %1.").arg(toQt(study.cases[readings.worst_case].title()));
  evidence.remarks << tr("%1 of %2 cases improved (sign test %3; they share their flips).")
                          .arg(readings.better)
                          .arg(readings.moved)
                          .arg(toQt(core::pText(readings.sign_p)));
  if (readings.trend) evidence.remarks << toQt(core::trendText(*readings.trend)) + QLatin1Char('.');
  std::vector<core::SuiteReading> kinds = readings.kinds;
  if (readings.without_bound_elsewhere) kinds.push_back(*readings.without_bound_elsewhere);
  for (auto& part : {readingsPart("by_audience", tr("Who gains, who loses"), readings.audiences),
                     readingsPart("by_preset", tr("By preset"), readings.presets),
                     readingsPart("by_workload", tr("By workload"), readings.workloads),
                     readingsPart("by_kind", tr("By kind of case"), kinds),
                     readingsPart("without_one", tr("With one case left out"), readings.without_one)})
    if (!part.table.rows.empty()) evidence.parts.push_back(part);
}

Evidence suiteEvidence(const core::Study& study, const core::Judgement& judgement) {
  const core::Findings& findings = judgement.findings;
  Evidence evidence;
  evidence.title = tr("All %1 cases").arg(static_cast<int>(study.cases.size()));
  if (!findings.suite) return evidence;
  evidence.title = toQt(core::suiteRow(study, *findings.suite).title);
  const core::SuiteFinding& suite = *findings.suite;
  evidence.subtitle = estimatorText(suite.summary.design);
  evidence.verdict = QString::fromUtf8(core::verdictName(suite.verdict));
  evidence.sentence = tr("%1: %2").arg(toQt(core::changeText(suite.improvement)), toQt(core::verdictText(suite)));
  evidence.table = {{QString(), tr("improvement")},
                    {{tr("these cases, equal weight"), toQt(core::changeText(suite.improvement))},
                     {tr("cases like these"), toQt(core::changeText(suite.cases_like_these))},
                     {tr("arithmetic mean"), toQt(core::percentText(suite.summary.arithmetic_mean_percent))}},
                    false};
  if (suite.next_case)
    evidence.table.rows.insert(evidence.table.rows.end() - 1,
                               {tr("a next case"), toQt(core::spanText(suite.next_case->interval))});
  Evidence::Part how{QStringLiteral("how"), tr("How it is summed up"), tr("geometric mean"), {}, {}};
  how.remarks << tr("These cases: geometric mean of the improvements, every case with the same weight.")
              << tr("Cases like these: what another sample of such cases would give.")
              << (suite.next_case
                      ? tr("A next case: where one more of this kind would probably land. About %1 of 100 such "
                           "cases would gain as much as matters.")
                            .arg(suite.next_case->gain_percent, 0, 'f', 0)
                      : tr("With five cases or more it would say where a next one would probably land."))
              << tr("The arithmetic mean of the percentages is there for comparison with published work only.")
              << tr("Cases that run between two flips share them, so more cases do not narrow the interval; more "
                    "visits do.");
  if (!judgement.claim.safety.empty()) evidence.remarks << toQt(judgement.claim.safety) + QLatin1Char('.');
  if (findings.readings) addReadings(evidence, study, *findings.readings);
  if (auto presets = presetsPart(judgement.pair_study, findings); !presets.table.rows.empty())
    evidence.parts.insert(evidence.parts.begin(), std::move(presets));
  evidence.parts.push_back(std::move(how));
  return evidence;
}

}  // namespace

Evidence evidenceOf(const core::Study& study, const core::Judgement& judgement, std::optional<std::size_t> case_index,
                    const std::vector<core::Used>& used) {
  Evidence evidence = case_index && *case_index < judgement.findings.cases.size()
                          ? CaseEvidence(study, judgement, judgement.findings.cases[*case_index]).all()
                          : suiteEvidence(study, judgement);
  if (case_index)
    for (auto& part : {companionPart(study, judgement, *case_index), furtherPart(study, judgement, *case_index),
                       usedPart(study, judgement, *case_index, used)})
      if (part) evidence.parts.push_back(*part);
  for (const core::PossibleAt& one : judgement.possible)
    if (one.case_index == case_index)
      evidence.remarks << tr("At %1 it %2.").arg(toQt(study.nameOf(one.configuration)), toQt(core::possibleText(one)));
  const bool is_headline = !case_index || study.cases.size() == 1;
  for (const core::Value& one : judgement.value)
    if (is_headline) evidence.remarks << toQt(core::valueText(one, study)) + QLatin1Char('.');
  if (is_headline)  // predictions are about it
    for (const core::Prediction& one : judgement.predictions)
      evidence.remarks << tr("%1 expected %2.").arg(toQt(one.person), toQt(core::percentText(one.percent)));
  return evidence;
}

}  // namespace app
