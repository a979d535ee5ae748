#include "report/json/findings_json.h"

#include <cmath>

#include "report/json/claim_json.h"
#include "report/json/companions_json.h"
#include "report/json/or_null.h"
#include "report/json/possible_json.h"
#include "report/json/results_json.h"
#include "report/json/shape_json.h"
#include "report/json/used_json.h"
#include "report/json/value_json.h"

#include "core/findings/derived_studies.h"
#include "core/findings/presets_held.h"
#include "core/judgement/claim.h"
#include "core/machine/difference_sentences.h"
#include "core/machine/fact_title.h"
#include "core/values/percent.h"
#include "report/json/effect_json.h"

namespace report {
namespace {

using nlohmann::ordered_json;

// Twelve digits: what is behind them is the computer's rounding, and differs from one to the next.
ordered_json withoutNoise(ordered_json value) {
  if (value.is_number_float()) {
    const double number = value.get<double>();
    if (number == 0 || !std::isfinite(number)) return value;
    const double scale = std::pow(10.0, 11 - std::floor(std::log10(std::abs(number))));
    const double rounded = std::round(number * scale) / scale;
    return std::isfinite(rounded) ? ordered_json(rounded) : value;
  }
  if (value.is_structured())
    for (auto& element : value) element = withoutNoise(std::move(element));
  return value;
}

ordered_json changeJson(const core::PercentChange& change) {
  return {{"percent", change.value},
          {"lo_percent", change.interval ? ordered_json(change.interval->lo) : ordered_json()},
          {"hi_percent", change.interval ? ordered_json(change.interval->hi) : ordered_json()}};
}

ordered_json secondaryJson(const core::SecondaryMetric& metric) {
  ordered_json out{{"name", metric.name},
                   {"unit", metric.unit},
                   {"baseline", metric.baseline},
                   {"changed", metric.changed},
                   {"change", metric.change ? changeJson(*metric.change) : ordered_json()}};
  if (metric.fewest_frames > 0) out["rests_on_frames"] = metric.fewest_frames;
  if (metric.fewest_frames > 0) out["thin"] = metric.isThin();
  if (metric.holds[0] != core::HoldsTarget::DoesNotApply)
    out["holds_target"] = {core::holdsTargetName(metric.holds[0]), core::holdsTargetName(metric.holds[1])};
  return out;
}

ordered_json thresholdJson(const core::NoticeThreshold& threshold) {
  const bool is_any = threshold.decides != core::ThresholdDecides::NothingCanBeNoticed;
  return {{"gain_percent", is_any ? ordered_json(threshold.gain_percent) : ordered_json()},
          {"loss_percent", threshold.loss_percent},
          {"decides", core::thresholdDecidesName(threshold.decides)}};
}

ordered_json boundJson(const core::BoundFinding& found) {
  return {{"class", core::boundName(found.bound)}, {"evidence", found.evidence}};
}

ordered_json readingJson(const core::SuiteReading& reading) {
  ordered_json out{{"name", reading.name},
                   {"cases", reading.cases},
                   {"improvement", changeJson(reading.improvement)},
                   {"verdict", core::verdictName(reading.verdict)}};
  addContrast(out, reading.contrast);
  return out;
}

ordered_json trendJson(const core::PresetTrend& trend) {
  return {{"first", trend.first},
          {"last", trend.last},
          {"workloads", trend.workloads},
          {"change_of_improvement", changeJson(trend.change)},
          {"sentence", core::trendText(trend)}};
}

ordered_json readingsJson(const core::Study& study, const core::Findings& findings) {
  const core::SuiteReadings& readings = *findings.readings;
  const auto list = [](const std::vector<core::SuiteReading>& all) {
    ordered_json out = ordered_json::array();
    for (const core::SuiteReading& one : all) out.push_back(readingJson(one));
    return out;
  };
  const auto one = [](const std::optional<core::SuiteReading>& reading) {
    return reading ? readingJson(*reading) : ordered_json();
  };
  return {{"presets", list(readings.presets)},
          {"workloads", list(readings.workloads)},
          {"real_and_synthetic", list(readings.kinds)},
          {"audiences", list(readings.audiences)},
          {"without_bound_elsewhere", one(readings.without_bound_elsewhere)},
          {"first_against_last_preset", readings.trend ? trendJson(*readings.trend) : ordered_json()},
          {"without_one_case", list(readings.without_one)},
          {"worst_case", study.cases[readings.worst_case].title()},
          {"no_loss_that_matters_anywhere", readings.has_no_loss_anywhere},
          {"gain", findings.gains()},
          {"lose", findings.losses()},
          {"better", readings.better},
          {"moved", readings.moved},
          {"sign_test_p", readings.sign_p}};
}

ordered_json presetsHeldJson(const core::Study& study, const core::Findings& findings) {
  ordered_json all = ordered_json::array();
  for (const core::PresetsHeld& held : core::presetsHeld(study, findings)) {
    const auto presets = [&](const std::array<std::optional<std::size_t>, 2>& cases) {
      const auto name = [&](std::size_t configuration) {
        return cases[configuration] ? ordered_json(study.cases[*cases[configuration]].variant()) : ordered_json();
      };
      return ordered_json{{"baseline", name(0)}, {"changed", name(1)}};
    };
    all.push_back({{"workload", held.workload},
                   {"crossed", held.isCrossed()},
                   {"by_average", presets(held.by_average)},
                   {"low", held.low},
                   {"with_low", presets(held.with_low)}});
  }
  return all;
}

// What is doubtful of the passes, whether it is said or not.
void addQuality(ordered_json& out, const core::CaseFinding& finding, double confidence) {
  out["drift"] = nullptr;
  if (const auto& drift = finding.drift; drift && drift->is_estimable)
    out["drift"] = {{"percent_per_hour", core::percentOfLn(drift->per_hour)},
                    {"p", drift->p},
                    {"p_holm", orNull(drift->p_holm)},
                    {"exposure_hours", drift->exposure_hours},
                    {"said", drift->is_flagged}};
  if (const auto& effect = finding.effect; effect && effect->is_log && !out["drift"].is_null())
    out["drift"]["change_without_it"] =
        changeJson(core::percentChangeOf(core::withDriftOut(effect->contrast, *finding.drift, confidence)));
  out["warm_up"] = nullptr;
  if (const auto& warm_up = finding.warm_up; warm_up && warm_up->inference)
    out["warm_up"] = {{"percent", core::percentOfLn(*warm_up->difference)},
                      {"p", warm_up->inference->p},
                      {"said", finding.is_warm_up_seen}};
  out["odd_passes"] = finding.odd_passes;
  out["odd_visits"] = finding.odd_visits;
}

void addTargets(ordered_json& out, const core::CaseFinding& finding) {
  out["holds_target_baseline"] = core::holdsTargetName(finding.holds_baseline);
  out["holds_target_changed"] = core::holdsTargetName(finding.holds_changed);
  const auto needed = [](const std::optional<core::PercentChange>& one) {
    return one ? changeJson(*one) : ordered_json();
  };
  out["needed_for_target"] = {{"baseline", needed(finding.needed[0])}, {"changed", needed(finding.needed[1])}};
  out["further_targets"] = ordered_json::array();
  for (const core::FurtherTarget& one : finding.further_targets)
    out["further_targets"].push_back({{"fps", one.fps},
                                      {"baseline", core::holdsTargetName(one.holds[0])},
                                      {"changed", core::holdsTargetName(one.holds[1])}});
}

void addLeftOut(ordered_json& out, const core::CaseFinding& finding) {
  out["left_out"] = ordered_json::array();
  for (const core::LeftOut& one : finding.left_out)
    out["left_out"].push_back({{"pass", one.pass_id}, {"because", one.why}});
  out["rounds_left_out"] = ordered_json::array();
  for (const core::RoundLeftOut& one : finding.rounds_left_out)
    out["rounds_left_out"].push_back({{"round", one.round}, {"because", one.why}});
}

ordered_json caseJson(const core::CaseFinding& finding, const core::Findings& findings) {
  ordered_json out{{"case", finding.title},
                   {"metric",
                    {{"name", finding.metric.name},
                     {"unit", finding.metric.unit},
                     {"direction", finding.metric.direction == core::Direction::HigherIsBetter ? "higher" : "lower"}}},
                   {"counted_baseline", finding.counted_baseline},
                   {"counted_changed", finding.counted_changed},
                   {"failed", finding.failed},
                   {"rests_on_passes", finding.counted}};
  addLeftOut(out, finding);
  if (!finding.why_no_effect.empty()) out["why_no_effect"] = finding.why_no_effect;
  if (finding.difference) {
    const auto& interval = finding.difference->interval;
    out["difference"] = {{"value", finding.difference->value},
                         {"lo", interval ? ordered_json(interval->first) : ordered_json()},
                         {"hi", interval ? ordered_json(interval->second) : ordered_json()}};
  }
  if (!finding.effect) return out;
  out["effect"] = effectJson(*finding.effect, finding.metric.direction, finding.metric.unit, findings.null_study_date);
  out["baseline"] = finding.effect->level_baseline;
  out["changed"] = finding.effect->level_changed;
  if (finding.threshold.ms && finding.effect->is_log) out["threshold"] = thresholdJson(finding.threshold);
  out["verdict"] = core::verdictName(finding.verdict);
  out["marks"] = finding.marks.names();
  out["p_holm"] = finding.p_holm ? ordered_json(finding.p_holm->zero) : ordered_json();
  addClaimPs(out, finding);
  out["tipping_flip_sd_for_zero_percent"] = orNull(finding.tipping_zero_percent);
  out["tipping_flip_sd_for_threshold_percent"] = orNull(finding.tipping_threshold_percent);
  if (finding.second_opinion)
    out["second_opinion"] = {{"p_permutation", finding.second_opinion->p},
                             {"smallest_possible_p", finding.second_opinion->smallest_possible_p},
                             {"too_few_to_tell", finding.second_opinion->is_too_few_to_tell},
                             {"shift_percent", core::percentOfLn(finding.second_opinion->shift)}};
  if (finding.further)
    out["further_to_settle"] = {{"more", finding.further->further},
                                {"expected_verdict", core::verdictName(finding.further->expected)}};
  out["yardsticks"] = {
      {"interval", core::verdictName(finding.verdict)},
      {"fixed_band", finding.by_band ? ordered_json(core::standingName(*finding.by_band)) : ordered_json()},
      {"two_run_to_run_sds",
       finding.by_two_sds ? ordered_json(core::standingName(*finding.by_two_sds)) : ordered_json()}};
  out["bound_baseline"] = boundJson(finding.bound[0]);
  out["bound_changed"] = boundJson(finding.bound[1]);
  out["bound_elsewhere"] = finding.is_bound_elsewhere;
  out["run_to_run_spread_percent"] = finding.spread ? ordered_json(finding.spread->percent) : ordered_json();
  addTargets(out, finding);
  out["secondary"] = ordered_json::array();
  for (const core::SecondaryMetric& metric : finding.secondary) out["secondary"].push_back(secondaryJson(metric));
  addQuality(out, finding, findings.confidence);
  return out;
}

ordered_json suiteJson(const core::Study& study, const core::SuiteFinding& suite) {
  ordered_json cases = ordered_json::array();
  for (const std::size_t index : suite.cases) cases.push_back(study.cases[index].title());
  ordered_json out{{"cases", cases},
                   {"estimator", core::estimatorName(suite.summary.design.estimator)},
                   {"improvement", changeJson(suite.improvement)},
                   {"cases_like_these", changeJson(suite.cases_like_these)},
                   {"arithmetic_mean_percent", suite.summary.arithmetic_mean_percent},
                   {"verdict", core::verdictName(suite.verdict)},
                   {"marks", suite.marks.names()}};
  addContrast(out, suite.summary.this_suite);
  out["next_case"] = nullptr;
  if (const auto& next = suite.next_case)
    out["next_case"] = {{"lo_percent", next->interval.lo},
                        {"hi_percent", next->interval.hi},
                        {"gain_percent_of_cases", next->gain_percent}};
  return out;
}

ordered_json doubtJson(const core::Doubt& doubt) {
  ordered_json out{{"id", doubt.id},
                   {"rank", core::doubtRankName(doubt.rank)},
                   {"sentence", doubt.sentence},
                   {"remedy", doubt.remedy}};
  if (doubt.accepted_because) out["accepted_because"] = *doubt.accepted_because;
  return out;
}

ordered_json stepJson(const core::MeasuredStep& step) {
  const auto name = [&] {
    switch (step.agreement) {
      case core::Agreement::Agrees: return "agrees";
      case core::Agreement::Disagrees: return "disagrees";
      case core::Agreement::TooNoisy: return "too_noisy";
      case core::Agreement::NoStep: return "no_step";
    }
    return "unknown";
  };
  return {{"reading", step.name},
          {"baseline", step.baseline.values},
          {"changed", step.changed.values},
          {"ratio", step.ratio},
          {"ratio_lo", step.ratio_lo},
          {"ratio_hi", step.ratio_hi},
          {"expected_ratio", step.expected ? ordered_json(*step.expected) : ordered_json()},
          {"agreement", name()}};
}

ordered_json sentencesJson(const std::vector<core::Difference>& differences) {
  return core::differenceSentences(differences);
}

ordered_json proofJson(const core::Study& study, const core::BenchProof& proof) {
  if (!proof.levels) return {};
  ordered_json unlike = ordered_json::array();
  for (const core::VisitProof& visit : proof.visits)
    if (!visit.not_as_its_level.empty()) unlike.push_back(visit.planned);
  const core::MeasuredStep* deciding = proof.decidingStep();
  if (!deciding && !proof.measured.empty()) deciding = &proof.measured.front();
  ordered_json measured = ordered_json::array();
  for (const core::MeasuredStep& step : proof.measured) measured.push_back(stepJson(step));
  ordered_json unread = ordered_json::array();
  for (const core::Unverified& one : proof.levels->unread) unread.push_back(core::factTitle(one.field));
  ordered_json released = ordered_json::object();
  for (const auto& [id, reason] : study.released) released[id] = reason;
  return {{"variable", core::movedName(proof.levels->moved)},
          {"only_variable_changed", proof.levels->only_variable_changed},
          {"verdict", core::proofVerdictName(proof.verdict)},
          {"reason", proof.reason},
          {"levels_swapped", proof.are_levels_swapped},
          {"moved", sentencesJson(proof.levels->meant)},
          {"came_along", sentencesJson(proof.levels->comes_along)},
          {"should_not_have", sentencesJson(proof.levels->must_not)},
          {"held_and_differs", sentencesJson(proof.levels->held)},
          {"released", released},
          {"could_not_be_read", unread},
          {"measured", deciding ? stepJson(*deciding) : ordered_json()},
          {"measurements", measured},
          {"visits_unlike_their_level", unlike}};
}

// Of a pair its only step is the proof itself.
ordered_json stepsJson(const core::Study& study, const core::Judgement& judgement) {
  ordered_json list = ordered_json::array();
  if (study.shape == core::Shape::Pair) return list;
  for (const core::StepProof& step : judgement.steps)
    list.push_back({{"from", study.nameOf(step.pair.from)},
                    {"to", study.nameOf(step.pair.to)},
                    {"proof", proofJson(study, step.proof)}});
  return list;
}

ordered_json unreachableJson(const core::Study& study, const core::Judgement& judgement) {
  ordered_json list = ordered_json::array();
  for (const core::Unreachable& one : judgement.unreachable) {
    list.push_back({{"level", study.nameOf(one.configuration)},
                    {"reason", one.reason},
                    {"next_lower", orNull(core::lowerLevelFor(study, one))}});
  }
  return list;
}

// Cases that were added later: what the first part says is not changed by them.
ordered_json secondPartJson(const core::Study& study, const core::Judgement& judgement) {
  ordered_json cases = ordered_json::array();
  for (std::size_t i = study.firstPartCases(); i < study.cases.size(); ++i) cases.push_back(study.cases[i].title());
  return {{"rounds", study.plan.second_part_rounds},
          {"complete", judgement.findings.done.is_second_done},
          {"sealed", judgement.is_second_part_sealed},
          {"cases", cases}};
}

}  // namespace

ordered_json findingsJson(const core::Study& study, const core::Record& record, const core::Judgement& judgement) {
  const core::Findings& findings = judgement.findings;
  ordered_json out{{"program_version", IRON_LEVER_VERSION},
                   {"claim", judgement.claim.sentence()},
                   {"safety", judgement.claim.safety},
                   {"chosen_afterwards", !judgement.isPairAsked()},
                   {"proof", proofJson(study, judgement.proof)},
                   {"proved_steps", stepsJson(study, judgement)},
                   {"not_reachable", unreachableJson(study, judgement)},
                   {"notice_threshold_percent", study.notice_threshold_percent},
                   {"notice_threshold_ms", orNull(study.notice_threshold_ms)},
                   {"yardstick", core::yardstickName(study.yardstick)},
                   {"band_percent", study.band_percent},
                   {"confidence", findings.confidence},
                   {"target_fps", study.target_fps},
                   {"planned_passes", findings.planned_passes},
                   {"recorded_passes", findings.recorded_passes},
                   {"failed_passes", findings.failed_passes},
                   {"retired_passes", findings.retired_passes},
                   {"excluded_passes", findings.excluded_passes},
                   {"plan_complete", findings.done.is_first_done && findings.done.is_second_done},
                   {"school", core::schoolName(study.school)},
                   {"spread", core::spreadName(study.sharesSpread() ? core::Spread::Shared : core::Spread::Own)},
                   {"predictions", ordered_json::array()},
                   {"explanations", ordered_json::array()},
                   {"suite", findings.suite ? suiteJson(study, *findings.suite) : ordered_json()},
                   {"readings", findings.readings ? readingsJson(study, findings) : ordered_json()},
                   {"presets_that_hold_the_target", presetsHeldJson(study, findings)},
                   {"cases", ordered_json::array()},
                   {"doubts", ordered_json::array()}};
  for (const core::Explanation& one : judgement.explanations)
    out["explanations"].push_back(
        {{"case", one.case_title}, {"grade", core::gradeName(one.grade)}, {"text", one.text}, {"person", one.person}});
  for (const core::Prediction& one : judgement.predictions)
    out["predictions"].push_back({{"person", one.person}, {"percent", one.percent}});
  out["sealed"] = judgement.is_sealed;
  if (judgement.is_sealed) out["suite"] = out["readings"] = out["presets_that_hold_the_target"] = nullptr;
  if (study.plan.second_part_rounds > 0) out["second_part"] = secondPartJson(study, judgement);
  for (const core::CaseFinding& finding : findings.cases)
    if (!judgement.isSealed(study.cases[finding.case_index])) {
      ordered_json& one = out["cases"].emplace_back(caseJson(finding, findings));
      one["results"] = resultsJson(study, judgement, finding);
      if (study.cases[finding.case_index].is_second_part) one["second_part"] = true;
    }
  for (const core::Doubt& doubt : judgement.doubts) out["doubts"].push_back(doubtJson(doubt));
  out["used"] = usedJson(study, core::usedOf(study, record, judgement));
  out["not_read"] = ordered_json::array();
  for (const core::UnreadChannel& one : core::unreadOf(record))
    out["not_read"].push_back({{"channel", one.what}, {"reason", one.reason}});
  out["possible"] = possibleJson(study, judgement.possible);
  out["companions"] = companionsJson(study, judgement);
  out["value"] = valueJson(study, judgement.value);
  addShape(out, study, judgement);
  return withoutNoise(out);
}

}  // namespace report
