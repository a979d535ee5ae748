#include "core/findings/findings.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <unordered_set>

#include <fmt/format.h>

#include "core/estimate/tipping.h"
#include "core/findings/case_memory.h"
#include "core/findings/judged_claim.h"
#include "core/findings/quality_families.h"
#include "core/findings/rounds_left_out.h"
#include "core/findings/secondary.h"
#include "core/findings/suite_members.h"
#include "core/findings/thresholds.h"
#include "core/machine/device_path.h"
#include "core/record/looks.h"
#include "core/record/noise.h"
#include "core/record/pair_visits.h"
#include "core/record/sheet_ledger.h"
#include "core/values/percent.h"

namespace core {
namespace {

constexpr std::array kBothLevels{ConfigurationId::Baseline, ConfigurationId::Changed};

void countPasses(Findings& findings, const Study& study, std::span<const Slot> schedule, const Record& record) {
  std::vector<bool> is_recorded(schedule.size(), false);
  std::vector<bool> is_finished(schedule.size(), false);
  for (const Pass& pass : record.passes) {
    if (pass.slot >= schedule.size()) continue;
    is_recorded[pass.slot] = true;
    if (pass.status == PassStatus::Finished) is_finished[pass.slot] = true;
  }
  const auto count = [](const std::vector<bool>& slots) {
    return static_cast<int>(std::count(slots.begin(), slots.end(), true));
  };
  findings.planned_passes = static_cast<int>(schedule.size());
  findings.recorded_passes = count(is_recorded);
  findings.failed_passes = count(is_recorded) - count(is_finished);
  findings.done = SheetLedger(study, schedule, record).partsDone();
}

// Counts, shares, decibels, degrees: what changed is a difference in the unit. Only a metric that is a difference by
// nature has a threshold to be judged by.
void fillDifference(CaseFinding& finding, const Effect& effect) {
  finding.difference = UnitChange{effect.contrast.difference, {}};
  const auto& inference = effect.contrast.inference;
  if (inference) finding.difference->interval = {inference->lo, inference->hi};
  if (finding.metric.scale == Scale::Ratio) {
    finding.why_no_effect = "A value is 0 or below: the difference is given in the metric's unit, without a verdict.";
    return;
  }
}

void fillClaim(CaseFinding& finding, const Effect& effect) {
  const Metric& metric = finding.metric;
  static_cast<Claimed&>(finding) =
      claimedOf(*onImprovementScale(effect.contrast, metric.direction), finding.threshold,
                {effect.is_log, metric.scale, metric.threshold, true, effect.isFlipUnseen()});
}

void fillEffect(CaseFinding& finding, const Effect& effect, const Study& study) {
  finding.effect = effect;
  if (effect.is_log) finding.threshold = thresholdAt(study, finding.metric, effect.level_baseline);
  fillClaim(finding, effect);
  if (!effect.is_log) return fillDifference(finding, effect);
  finding.change = percentChangeOf(effect.contrast);
  finding.improvement = improvementPercent(effect, finding.metric.direction);
  const auto in_percent = [](std::optional<double> sd) { return sd ? std::optional(100 * *sd) : std::nullopt; };
  finding.tipping_zero_percent = in_percent(tippingFlipSd(effect, 0));
  const double bound =
      finding.verdict == Verdict::Gain ? finding.threshold.gain_percent : finding.threshold.loss_percent;
  if (finding.verdict == Verdict::Gain || finding.verdict == Verdict::Loss)
    finding.tipping_threshold_percent = in_percent(tippingFlipSd(effect, std::abs(lnOfPercent(bound))));
  const auto before = asFps(effect.level_baseline, finding.metric.unit);
  const auto after = asFps(effect.level_changed, finding.metric.unit);
  if (before && after) {
    finding.fps_gained = *after - *before;
    finding.frame_ms_change = 1000 / *after - 1000 / *before;
  }
  const auto holds = [&](std::span<const double> units, double target_fps) {
    return holdsTarget(units, effect.is_log, finding.metric, study, target_fps);
  };
  finding.holds_baseline = holds(effect.baseline_units, study.target_fps);
  finding.holds_changed = holds(effect.changed_units, study.target_fps);
  finding.needed = {neededFor(effect.baseline_units, effect.is_log, finding.metric, study, study.target_fps),
                    neededFor(effect.changed_units, effect.is_log, finding.metric, study, study.target_fps)};
  for (const double target : study.further_targets_fps)
    finding.further_targets.push_back(
        {target, {holds(effect.baseline_units, target), holds(effect.changed_units, target)}});
  finding.by_band = byFixedBand(finding.improvement.value, study.band_percent);
  if (finding.spread) finding.by_two_sds = byTwoSds(finding.improvement.value, finding.spread->pass_sd);
  if (!effect.contrast.inference) return;
  finding.second_opinion = secondOpinion(effect, study.confidence);
  if (finding.verdict == Verdict::NotSettled && finding.threshold.gain_percent > 0)
    finding.further = furtherRoundsToSettle(effect, finding.metric.direction, finding.threshold, study.confidence);
}

// What bounded the case, side by side at both levels, whether they differ or not.
void fillBound(CaseFinding& finding, std::span<const CountedPass> counted, ActsOn acts_on) {
  std::array<std::vector<CountedPass>, 2> by_level;
  std::optional<double> best_power_w;
  for (const CountedPass& one : counted) by_level[static_cast<std::size_t>(one.visit->configuration)].push_back(one);
  for (const auto& level : by_level)
    if (const auto power = graphicsPower(level)) best_power_w = std::max(best_power_w.value_or(0), *power);
  for (std::size_t configuration = 0; configuration < by_level.size(); ++configuration)
    finding.bound[configuration] = boundOf(by_level[configuration], best_power_w);
  finding.is_bound_elsewhere = isBoundElsewhere(finding.bound, acts_on);
}

// Where the graphics device is built in, main memory is its own: what acts on memory acts on graphics too.
ActsOn actsOn(const Study& study, const Record& record) {
  const VariableKind* kind = findVariableKind(study.variable().kind);
  if (!kind) return ActsOn::Anything;
  const bool is_memory = kind->id == "memory_speed" || kind->id == "memory_capacity";
  if (!is_memory || record.captures.empty()) return kind->acts_on;
  const Capture& capture = record.captures.front().capture;
  const std::string device = study.variable().device.empty() ? likelyGraphicsDevice(capture) : study.variable().device;
  return isBuiltIn(capture, device) ? ActsOn::Anything : kind->acts_on;
}

bool allPositiveValues(std::span<const CountedPass> counted) {
  return std::all_of(counted.begin(), counted.end(), [](const CountedPass& one) { return *one.pass->value > 0; });
}

void fillOddPasses(CaseFinding& finding, std::span<const CountedPass> counted, const Study& study) {
  for (const ConfigurationId configuration : configurationsOf(study)) {
    std::vector<double> values;
    std::vector<int> visits;
    std::vector<std::int64_t> ids;
    for (const CountedPass& one : counted) {
      if (one.visit->configuration != configuration) continue;
      values.push_back(*one.pass->value);
      visits.push_back(one.visit->planned);
      ids.push_back(one.pass->id);
    }
    const OddPasses odd = oddPasses(values, visits);
    if (!odd.is_assessed) continue;
    OddGroup& group = finding.odd_groups.emplace_back(OddGroup{odd.p, {}, odd.odd_visit});
    for (const std::size_t i : odd.flagged) group.passes.push_back(ids[i]);
  }
}

// Of all configurations, whichever two are compared: what a bench does while they are measured is one thing.
void fillQuality(CaseFinding& finding, std::span<const CountedPass> counted, const Study& study, PairOf pair) {
  constexpr double kMsPerHour = 3600e3;
  if (!allPositiveValues(counted)) return;
  const auto values = visitValues(counted, [](const Pass& pass) { return pass.value; });
  fillOddPasses(finding, counted, study);
  std::vector<TimedPass> timed;
  const std::int64_t begin_ms = counted.empty() ? 0 : counted.front().pass->started_ms;
  const bool is_of_one_sheet =
      std::none_of(counted.begin(), counted.end(), [](const CountedPass& one) { return one.visit->is_taken; });
  for (const CountedPass& one : counted)
    timed.push_back({static_cast<int>(one.visit->id), static_cast<int>(one.visit->configuration),
                     static_cast<double>(one.pass->started_ms - begin_ms) / kMsPerHour, *one.pass->value});
  if (is_of_one_sheet)  // between two studies lie days in which the bench did other things
    finding.drift = driftOf(timed, static_cast<int>(pair.from), static_cast<int>(pair.to), study.confidence);
  std::vector<std::vector<double>> visits;
  for (const VisitValues& visit : values) visits.push_back(visit.values);
  finding.warm_up = warmUpOf(visits, study.confidence);
}

// Nobody is told "yet" of what is not to come.
std::string notMeasuredText(const CaseFinding& finding, const Study& study, bool is_done) {
  if (!is_done) return "Not measured at both levels yet.";
  if (!finding.only) return "It has a result at neither level.";
  return fmt::format("It has a result at {} only: {}.", study.nameOf(finding.only->at),
                     levelText(finding.only->level, finding.metric, study));
}

std::vector<VisitValues> valuesOf(std::span<const CountedPass> counted) {
  return visitValues(counted, [](const Pass& pass) { return pass.value; });
}

/// The counted passes, a list a case: at all configurations, and as a pair at the two that are compared.
struct CountedCases {
  const std::vector<std::vector<CountedPass>>& everywhere;
  const std::vector<std::vector<CountedPass>>& of_pair;
};

CaseFinding findingOf(std::size_t case_index, const Study& study, const Record& record,
                      std::span<const CountedPass> counted, std::span<const VisitValues> sharing) {
  CaseFinding finding;
  finding.case_index = case_index;
  finding.title = study.cases[case_index].title();
  finding.metric = study.cases[case_index].metric;
  finding.threshold = noticeThreshold(study.notice_threshold_percent);  // until its frames are known
  for (const CountedPass& pass : counted) {
    (pass.visit->configuration == ConfigurationId::Baseline ? finding.counted_baseline : finding.counted_changed) += 1;
    finding.counted.push_back(pass.pass->id);
  }
  const auto values = valuesOf(counted);
  if (finding.counted_baseline == 0 || finding.counted_changed == 0) {
    const ConfigurationId at = finding.counted_baseline > 0 ? ConfigurationId::Baseline : ConfigurationId::Changed;
    if (const auto level = levelValueOf(values, at, finding.metric, study)) finding.only = OnlyLevel{at, *level};
    return finding;
  }
  if (finding.metric.scale == Scale::Ratio) finding.spread = runToRunSpread(values);
  fillBound(finding, counted, actsOn(study, record));
  const auto null_study = nullStudy(nullVisitsOf(study.cases[case_index], record.null_study));
  const auto flip = null_study ? flipSdFrom(*null_study, values) : std::nullopt;
  if (const auto effect = effectOf(values, study.confidence, flip, finding.metric.scale, sharing))
    fillEffect(finding, *effect, study);
  else
    finding.why_no_effect = effect.error().sentence();
  if (finding.doesExcludeZero()) finding.is_bound_elsewhere = false;  // it did show the change, whatever bounded it
  return finding;
}

void adjustForFamilies(Findings& findings, const Study& study) {
  std::vector<FamilyMember> family;
  for (CaseFinding& finding : findings.cases) {
    finding.marks.is_so_far = !findings.done.isDone(study.cases[finding.case_index]);
    family.push_back({&finding, finding.case_index});
  }
  adjustByPart(family, study, "cases");
  const std::span<CaseFinding> all(findings.cases);
  judgeQuality(all.first(study.firstPartCases()));
  judgeQuality(all.subspan(study.firstPartCases()));
}

// One that has no result at a level, and gets none, leaves the suite of the others standing. Whichever two
// configurations are compared, the suite is one.
std::vector<NamedSuiteCase> suiteCases(const Findings& findings, const Study& study, const Record& record,
                                       std::span<const Slot> schedule, const CountedCases& passes) {
  const SheetLedger ledger(study, schedule, record);
  std::vector<std::vector<VisitValues>> everywhere;
  for (const auto& of_case : passes.everywhere) everywhere.push_back(valuesOf(of_case));
  const std::vector<ConfigurationId> measured = measuredOf(study, std::span(everywhere).first(study.firstPartCases()));
  std::vector<NamedSuiteCase> cases;
  for (std::size_t i = 0; i < everywhere.size(); ++i) {
    const Case& one = study.cases[i];
    const auto& effect = findings.cases[i].effect;
    if (!suiteVisitsOf(study, i, everywhere[i], measured,
                       [&](std::size_t of, ConfigurationId at) { return ledger.awaits(of, at); }))
      continue;
    auto values = positiveVisits(valuesOf(passes.of_pair[i]), weightsAt(kBothLevels));
    if (!values) continue;
    const auto improvement = effect && effect->is_log ? std::optional(findings.cases[i].improvement) : std::nullopt;
    cases.push_back({i,
                     one.title(),
                     one.workload,
                     one.preset,
                     one.audience,
                     one.is_synthetic,
                     findings.cases[i].is_bound_elsewhere,
                     improvement,
                     findings.cases[i].threshold,
                     effect ? frameMs(one.metric, effect->level_baseline) : std::nullopt,
                     {one.metric.direction, *std::move(values), nullVisitsOf(one, record.null_study),
                      sharingVisits(study, everywhere[i])}});
  }
  return cases;
}

std::optional<SuiteFinding> suiteOf(const Findings& findings, const Study& study, std::span<const NamedSuiteCase> named,
                                    CaseMemory* memory) {
  if (named.size() < 2) return std::nullopt;
  const auto summarize = [&]() -> std::optional<SuiteSummary> {
    std::vector<SuiteCase> cases;
    for (const NamedSuiteCase& one : named) cases.push_back(one.values);
    const auto summary = summarizeSuite(cases, study.confidence);
    return summary ? std::optional(*summary) : std::nullopt;
  };
  SuiteFinding suite;
  for (const NamedSuiteCase& one : named) suite.cases.push_back(one.case_index);
  const auto summary = memory ? memory->suite(suite.cases, summarize) : summarize();
  if (!summary) return std::nullopt;
  suite.summary = *summary;
  suite.improvement = percentChangeOf(summary->this_suite);
  suite.cases_like_these = percentChangeOf(summary->cases_like_these);
  suite.threshold = thresholdOver(study, frameMsOf(named));
  if (const auto& next = summary->next_case)
    suite.next_case = SuiteFinding::Next{{percentOfLn(next->lo), percentOfLn(next->hi)},
                                         100 * next->shareAbove(lnOfPercent(suite.threshold.gain_percent))};
  static_cast<Claimed&>(suite) =
      claimedOf(summary->this_suite, suite.threshold,
                {true, Scale::Ratio, 0, findings.done.is_first_done, summary->isFlipUnseen()});
  return suite;
}

// Why a pass is not among those that its finding rests on.
std::string whyNotCounted(const Pass& pass, const Slot& slot, bool is_retired, ExcludedPasses excluded) {
  if (pass.status == PassStatus::Failed) return "failed";
  if (slot.is_warm_up) return "warm-up";
  if (!pass.does_not_run.empty()) return "it does not run there";
  if (excluded == ExcludedPasses::StayOut && !pass.excluded_because.empty()) return pass.excluded_because;
  return is_retired ? "its visit is not comparable" : "another attempt stands for it";
}

void fillLeftOut(Findings& findings, std::span<const Slot> schedule, std::span<const Pass> passes,
                 const std::function<bool(std::int64_t)>& is_retired,
                 const std::function<bool(const Slot&)>& is_of_pair, ExcludedPasses excluded) {
  for (const Pass& pass : passes) {
    if (pass.slot >= schedule.size()) continue;
    const Slot& slot = schedule[pass.slot];
    if (!findings.counted.contains(pass.id))
      findings.not_counted[pass.id] = whyNotCounted(pass, slot, is_retired(pass.visit_id), excluded);
    if (!is_of_pair(slot)) continue;
    CaseFinding& finding = findings.cases[slot.case_index];
    finding.failed += pass.status == PassStatus::Failed;
    if (const auto why = findings.not_counted.find(pass.id); why != findings.not_counted.end())
      finding.left_out.push_back({pass.id, why->second});
  }
}

}  // namespace

Findings findingsOf(const Study& asked, const Record& record, std::span<const std::int64_t> retired_visits, PairOf pair,
                    CaseMemory* memory, ExcludedPasses excluded) {
  const std::span<const Pass> passes = record.passes;
  const Study study = withLooksPaid(asked, record);
  const std::vector<Slot> schedule = scheduleOf(study);
  Findings findings;
  findings.confidence = study.confidence;
  countPasses(findings, study, schedule, record);
  const auto is_retired = [&](std::int64_t id) {
    return std::find(retired_visits.begin(), retired_visits.end(), id) != retired_visits.end();
  };
  const auto is_of_pair = [&](const Slot& slot) {
    return slot.configuration == pair.from || slot.configuration == pair.to;
  };
  const std::vector<Visit> visits = visitsWithout(retired_visits, record.visits);
  for (const Pass& pass : passes) {
    findings.excluded_passes += excluded == ExcludedPasses::StayOut && !pass.excluded_because.empty();
    findings.retired_passes += pass.status == PassStatus::Finished && is_retired(pass.visit_id);
  }
  const Study two = pairStudyOf(study, pair);
  const std::vector<Visit> visits_of_pair = pairVisits(visits, pair);
  const auto everywhere = countedByCase(study, schedule, visits, passes, excluded);
  const auto counted = countedByCase(two, schedule, visits_of_pair, passes, excluded);
  for (const auto& of_case : everywhere)
    for (const CountedPass& one : of_case) findings.counted.insert(one.pass->id);
  if (memory) memory->begin(study, record, pair, excluded);
  for (std::size_t i = 0; i < study.cases.size(); ++i) {
    const auto find = [&] {
      CaseFinding finding = findingOf(i, two, record, counted[i], sharingVisits(study, valuesOf(everywhere[i])));
      if (finding.counted_baseline > 0 && finding.counted_changed > 0) fillQuality(finding, everywhere[i], study, pair);
      fillSecondary(finding, study, counted[i], everywhere[i]);
      return finding;
    };
    findings.cases.push_back(memory ? memory->get(i, counted[i], everywhere[i], find) : find());
    if (CaseFinding& last = findings.cases.back(); last.counted_baseline == 0 || last.counted_changed == 0)
      last.why_no_effect = notMeasuredText(last, two, findings.done.isDone(study.cases[i]));
    const auto& effect = findings.cases.back().effect;
    if (effect && effect->flip) findings.null_study_date = record.null_study->date;
  }
  fillLeftOut(findings, schedule, passes, is_retired, is_of_pair, excluded);
  fillRoundsLeftOut(findings, study, record, schedule, pair);
  adjustForFamilies(findings, study);
  const auto named = suiteCases(findings, study, record, schedule, {everywhere, counted});
  findings.suite = suiteOf(findings, study, named, memory);
  if (findings.suite) findings.readings = readSuite(named, *findings.suite, study);
  return findings;
}

static int suiteCasesThat(const Findings& findings, bool (Claimed::*does)() const) {
  if (!findings.suite) return 0;
  return static_cast<int>(std::count_if(findings.suite->cases.begin(), findings.suite->cases.end(),
                                        [&](std::size_t one) { return (findings.cases[one].*does)(); }));
}

int Findings::gains() const { return suiteCasesThat(*this, &Claimed::doesGain); }
int Findings::losses() const { return suiteCasesThat(*this, &Claimed::doesLose); }

// How far a case moved, in thresholds: percentages and decibels have nothing else in common.
static double thresholdsMoved(const CaseFinding& finding) {
  const bool is_log = finding.effect->is_log;
  const double size = std::abs(is_log ? finding.change.value : finding.effect->contrast.difference);
  const double threshold = is_log ? finding.threshold.gain_percent : finding.metric.threshold;
  return size == 0 ? 0 : size / threshold;
}

std::optional<std::size_t> leastSurprising(const Findings& findings, std::size_t surprising) {
  std::optional<std::size_t> calmest;
  for (std::size_t i = 0; i < findings.cases.size(); ++i) {
    if (i == surprising || !findings.cases[i].effect) continue;
    if (!calmest || thresholdsMoved(findings.cases[i]) < thresholdsMoved(findings.cases[*calmest])) calmest = i;
  }
  return calmest;
}

}  // namespace core
