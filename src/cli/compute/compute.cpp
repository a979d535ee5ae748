#include "cli/compute/compute.h"

#include "report/json/or_null.h"

#include <algorithm>
#include <fstream>
#include <map>
#include <optional>

#include "cli/compute/compute_claims.h"
#include "cli/compute/compute_desk.h"
#include "cli/compute/compute_input.h"
#include "cli/compute/compute_levels.h"
#include "cli/compute/compute_planning.h"
#include "cli/compute/compute_quality.h"
#include "cli/compute/compute_suite.h"
#include "cli/compute/vector_input.h"
#include "core/estimate/claims.h"
#include "core/estimate/half_width.h"
#include "core/estimate/holm.h"
#include "core/estimate/null_study.h"
#include "core/estimate/second_opinion.h"
#include "core/estimate/spread.h"
#include "core/estimate/tipping.h"
#include "core/estimate/verdict.h"
#include "core/estimate/yardsticks.h"
#include "core/frames/frame_metrics.h"
#include "core/values/number_text.h"
#include "core/values/percent.h"
#include "report/json/effect_json.h"
#include "store/logs/frame_log.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using core::Result;
using nlohmann::json;
using nlohmann::ordered_json;
using Numbers = std::vector<double>;

ordered_json lowJson(const core::Lows& lows) {
  ordered_json object{{"percent", lows.percent}};
  const auto add = [&](const std::string& school, const core::Low& low) {
    object[school + "_fps"] = low.fps;
    object[school + "_frames"] = low.frames;
    object[school + "_thin"] = low.isThin();
  };
  add("percentile", lows.percentile);
  add("slowest_mean", lows.slowest_mean);
  add("time_share", lows.time_share);
  return object;
}

Result<Numbers> frameTimesOf(const json& input, ordered_json& rejected) {
  if (input.contains("frame_times_ms")) return input.at("frame_times_ms").get<Numbers>();
  if (input.contains("csv")) return store::readFrameLog(input.at("csv"), "frame_ms");
  const auto lines = input.at("lines").get<std::vector<std::string>>();
  Numbers frame_ms;
  std::vector<std::size_t> bad_lines;  // from 1
  for (std::size_t i = 0; i < lines.size(); ++i)
    if (const auto value = core::numberOf(lines[i]); value && *value > 0)
      frame_ms.push_back(*value);
    else
      bad_lines.push_back(i + 1);
  if (!bad_lines.empty() || frame_ms.empty()) rejected = {{"rejected", true}, {"bad_lines", bad_lines}};
  return frame_ms;
}

ordered_json frameJson(const core::FrameMetrics& m, std::span<const double> frame_ms, const json& input) {
  ordered_json out{{"rejected", false},
                   {"n", m.frames},
                   {"total_ms", m.total_ms},
                   {"average_fps", m.average_fps},
                   {"mean_frame_time_ms", m.mean_frame_ms},
                   {"jitter_ms", m.jitter_ms}};
  Numbers ascending(frame_ms.begin(), frame_ms.end());
  std::sort(ascending.begin(), ascending.end());
  out["quantiles_ms"] = ordered_json::array();
  for (const double q : input.value("quantiles", Numbers{}))
    out["quantiles_ms"].push_back(core::quantileOfSorted(ascending, q));
  out["lows"] = ordered_json::array();
  for (const core::Lows& lows : m.lows) out["lows"].push_back(lowJson(lows));
  out["stutter_frames"] = ordered_json::array();
  for (const std::size_t frame : m.stutter_frames) out["stutter_frames"].push_back(frame + 1);
  out["stutter_count"] = m.stutter_frames.size();
  out["stutter_per_minute"] = m.stutters_per_minute;
  out["stutter_time_share"] = m.stutter_time_share;
  out["stall_count"] = m.stalls.size();
  out["stall_total_ms"] = m.stall_total_ms;
  out["stalls"] = ordered_json::array();
  for (const core::Stall& stall : m.stalls)
    out["stalls"].push_back({{"first_frame", stall.first_frame + 1}, {"frames", stall.frames}, {"ms", stall.total_ms}});
  out["below_target_time_share"] = ordered_json::array();
  for (const double target : input.value("target_fps", Numbers{}))
    out["below_target_time_share"].push_back(core::timeBelowTarget(frame_ms, target));
  out["too_few_frames"] = m.hasTooFewFrames();
  return out;
}

Result<ordered_json> frameMetricsGroup(const json& input) {
  ordered_json rejected;
  auto frame_ms = frameTimesOf(input, rejected);
  if (!frame_ms) return frame_ms.error();
  if (!rejected.is_null()) return rejected;
  if (input.contains("trim")) {
    frame_ms =
        core::trimFrames(*frame_ms, input.at("trim").value("first_s", 0.0), input.at("trim").value("last_s", 0.0));
    if (!frame_ms) return frame_ms.error();
  }
  const auto metrics = core::frameMetrics(*frame_ms, input.value("low_percents", Numbers{1, 0.1}));
  if (!metrics) return metrics.error();
  return frameJson(*metrics, *frame_ms, input);
}

Result<ordered_json> effectGroup(const json& input, std::vector<core::VisitValues> visits) {
  const auto effect = core::effectOf(visits, input.value("confidence", 0.95), flipOf(input));
  if (!effect) return effect.error();
  std::string flip_date;
  if (effect->flip) flip_date = input.at("flip").value("date", "");
  return report::effectJson(*effect, directionOf(input), input.value("unit", ""), flip_date);
}

Result<ordered_json> estimatorChoiceGroup(const json& input) {
  std::vector<core::VisitValues> visits;
  for (const json& visit : input.at("visits")) {
    // A visit to a level that is neither of the two counts for nothing.
    const bool is_changed = !input.contains("changed") || visit.at("level") == input.at("changed");
    const auto configuration = visit.at("level") == input.at("baseline") ? core::ConfigurationId::Baseline
                               : is_changed                              ? core::ConfigurationId::Changed
                                                                         : core::configurationAt(2);
    visits.push_back({configuration, static_cast<int>(visits.size()) + 1, visit.at("round"),
                      Numbers(visit.at("passes").get<std::size_t>(), 1.0)});
  }
  const core::EstimatorChoice choice = core::chooseEstimator(visits);
  return ordered_json{{"estimator", core::estimatorName(choice.estimator)},
                      {"interval", choice.has_interval},
                      {"complete_rounds", choice.complete_rounds},
                      {"visits_baseline", choice.visits[0]},
                      {"visits_changed", choice.visits[1]},
                      {"passes_baseline", choice.passes[0]},
                      {"passes_changed", choice.passes[1]}};
}

Result<ordered_json> flipTippingGroup(const json& input) {
  auto effect = core::effectOf(flatVisits(input), input.value("confidence", 0.95));
  if (!effect) return effect.error();
  effect->design.visits = {input.value("visits_baseline", 1), input.value("visits_changed", 1)};
  const double delta_percent = input.at("delta_percent");
  const auto improvement = core::improvementPercent(*effect, directionOf(input));
  const core::Verdict verdict = core::verdictOf(improvement.interval, core::noticeThreshold(delta_percent));
  const auto percent = [](std::optional<double> sd) {
    return report::orNull(sd ? std::optional(100 * *sd) : std::nullopt);
  };
  const bool has_threshold = verdict == core::Verdict::Gain || verdict == core::Verdict::Loss;
  return ordered_json{
      {"d", effect->contrast.difference},
      {"df", effect->contrast.inference ? ordered_json(effect->contrast.inference->df) : ordered_json()},
      {"tipping_flip_sd_for_zero_percent", percent(core::tippingFlipSd(*effect, 0))},
      {"tipping_flip_sd_for_threshold_percent",
       has_threshold ? percent(core::tippingFlipSd(*effect, core::lnOfPercent(delta_percent))) : ordered_json()}};
}

Result<ordered_json> verdictsGroup(const json& input) {
  std::optional<core::PercentInterval> interval;
  if (!input.at("lo_percent").is_null())
    interval = core::PercentInterval{input.at("lo_percent"), input.at("hi_percent")};
  const core::Verdict verdict = core::verdictOf(interval, core::noticeThreshold(input.at("delta_percent")));
  core::Marks marks;
  marks.is_so_far = !input.value("plan_complete", true);
  marks.holds_if_flips_add_nothing = input.value("flip_unseen", false);
  if (input.contains("p_holm") && !input.at("p_holm").is_null()) {
    const double p = input.at("p_holm");  // one for all that a difference rests on; equality rests on none of it
    if (!core::doesHold(verdict, {p, p, 0, p}, input.value("alpha", 0.05)).value_or(true))
      marks.not_after_adjustment_for = input.value("family_size", 1);
  }
  return ordered_json{{"verdict", core::verdictName(verdict)},
                      {"loss_bound_percent", core::lossBoundPercent(input.at("delta_percent"))},
                      {"marks", marks.names()},
                      {"counted", !marks.any()}};
}

// A time without a frame's length decides nothing.
Result<ordered_json> noticeThresholdGroup(const json& input) {
  const auto number = [&](const char* name) {
    return input.contains(name) ? std::optional(input.at(name).get<double>()) : std::nullopt;
  };
  const double percent = input.at("threshold_percent");
  const auto ms = number("threshold_ms");
  const auto frame_ms = number("baseline_frame_ms");
  if (!(percent >= 0) || (ms && !(*ms > 0)) || (frame_ms && !(*frame_ms > 0)))
    return Error{ErrorKind::OutOfRange, "a threshold is 0 % or more, a time above 0 ms", "notice_threshold",
                 "Say threshold_percent, and where wanted threshold_ms with baseline_frame_ms"};
  const core::NoticeThreshold threshold = core::noticeThreshold(percent, ms, frame_ms);
  const bool is_any = threshold.decides != core::ThresholdDecides::NothingCanBeNoticed;
  return ordered_json{{"upper_percent", is_any ? ordered_json(threshold.gain_percent) : ordered_json()},
                      {"lower_percent", is_any ? ordered_json(threshold.loss_percent) : ordered_json()},
                      {"decides", core::thresholdDecidesName(threshold.decides)}};
}

Result<ordered_json> holmGroup(const json& input) {
  std::vector<std::optional<double>> p;
  for (const json& value : input.at("p"))
    p.push_back(value.is_null() ? std::nullopt : std::optional(value.get<double>()));
  const auto adjusted = core::holmAdjusted(p);
  const double alpha = input.value("alpha", 0.05);
  ordered_json out{{"family_size", std::count_if(p.begin(), p.end(), [](const auto& one) { return one.has_value(); })},
                   {"p_holm", ordered_json::array()},
                   {"claimed", ordered_json::array()}};
  for (const auto& one : adjusted) {
    out["p_holm"].push_back(report::orNull(one));
    out["claimed"].push_back(one ? ordered_json(*one < alpha) : ordered_json());
  }
  return out;
}

Result<ordered_json> spreadGroup(const json& input) {
  std::vector<core::VisitValues> visits;
  for (const json& values : input.at("visits"))
    visits.push_back({core::ConfigurationId::Baseline, static_cast<int>(visits.size()) + 1, 0, values.get<Numbers>()});
  const auto spread = core::runToRunSpread(visits);
  return ordered_json{{"df", spread ? spread->df : 0},
                      {"pass_sd", spread ? ordered_json(spread->pass_sd) : ordered_json()},
                      {"spread_percent", spread ? ordered_json(spread->percent) : ordered_json()}};
}

Result<ordered_json> nullStudyGroup(const json& input) {
  const auto found = core::nullStudy(nestedNumbers(input.at("visits")));
  if (!found) return found.error();
  return ordered_json{{"visits", found->visits},
                      {"visit_sd", found->visit_sd},
                      {"visit_df", found->visitDf()},
                      {"pass_sd", report::orNull(found->pass_sd)},
                      {"pass_df", found->pass_df},
                      {"passes_per_visit_harmonic", found->passes_per_visit},
                      {"flip_sd", found->flip_sd},
                      {"flip_df", found->flip_df},
                      {"flip_sd_is_zero", found->flip_sd == 0},
                      {"usable", found->isUsable()}};
}

Result<ordered_json> passesWithNullGroup(const json& input) {
  const auto null_study = core::nullStudy(nestedNumbers(input.at("null_study").at("visits")));
  if (!null_study) return null_study.error();
  const auto visits = nestedVisits(input);
  const auto flip = core::flipSdFrom(*null_study, visits);
  const auto effect = core::effectOf(visits, input.value("confidence", 0.95), flip);
  if (!effect) return effect.error();
  ordered_json out = report::effectJson(*effect, directionOf(input), input.value("unit", ""),
                                        input.at("null_study").value("date", ""));
  const bool is_used = effect->flip.has_value();
  out["rule"] = !is_used ? "none" : effect->flip->is_visit_means ? "visit means" : "moments";
  return out;
}

Result<ordered_json> extensionGroup(const json& input) {
  const auto effect = designedEffect(input);
  return effect ? extensionJson(input, *effect) : Result<ordered_json>(effect.error());
}

Result<ordered_json> furtherRoundsGroup(const json& input) {
  const auto effect = designedEffect(input);
  if (!effect) return effect.error();
  const core::NoticeThreshold threshold = core::noticeThreshold(input.at("delta_percent"));
  const auto further =
      core::furtherRoundsToSettle(*effect, directionOf(input), threshold, input.value("confidence", 0.95));
  const auto now = core::verdictOf(core::improvementPercent(*effect, directionOf(input)).interval, threshold);
  return ordered_json{
      {"verdict", core::verdictName(now)},
      {"further", further ? ordered_json(further->further) : ordered_json()},
      {"expected_verdict", further ? ordered_json(core::verdictName(further->expected)) : ordered_json()}};
}

Result<ordered_json> secondOpinionGroup(const json& input) {
  const auto effect = designedEffect(input);
  if (!effect) return effect.error();
  const core::SecondOpinion opinion =
      core::secondOpinion(*effect, input.value("confidence", 0.95), input.value("limit", std::size_t{200000}));
  ordered_json out{
      {"arrangements", opinion.arrangements},
      {"exact", opinion.is_exact},
      {"p_permutation", opinion.p},
      {"smallest_possible_p", opinion.smallest_possible_p},
      {"too_few_to_tell", opinion.is_too_few_to_tell},
      {"hl_shift", opinion.shift},
      {"hl_shift_percent", effect->is_log ? ordered_json(core::percentOfLn(opinion.shift)) : ordered_json()}};
  if (opinion.as_extreme) out["arrangements_as_extreme"] = *opinion.as_extreme;
  return out;
}

Result<ordered_json> yardsticksGroup(const json& input) {
  const double improvement = input.at("improvement_percent");
  return ordered_json{{"fixed_band", core::standingName(core::byFixedBand(improvement, input.at("band_percent")))},
                      {"two_run_to_run_sd", core::standingName(core::byTwoSds(improvement, input.at("pass_sd")))},
                      {"two_sd_percent", core::twoSdsPercent(input.at("pass_sd"))}};
}

using Group = Result<ordered_json> (*)(const json&);
const std::map<std::string, Group>& groups() {
  static const std::map<std::string, Group> table{
      {"desk", deskGroup},
      {"drift", driftGroup},
      {"enough_point", enoughPointGroup},
      {"contrast", contrastGroup},
      {"factorial_interaction", factorialGroup},
      {"ladder_elasticity", ladderGroup},
      {"loss_accounting", lossGroup},
      {"transfer_model", transferGroup},
      {"effect_passes", [](const json& input) { return effectGroup(input, flatVisits(input)); }},
      {"effect_rounds", [](const json& input) { return effectGroup(input, roundVisits(input)); }},
      {"effect_visits", [](const json& input) { return effectGroup(input, nestedVisits(input)); }},
      {"claims", claimsGroup},
      {"estimator_choice", estimatorChoiceGroup},
      {"extension", extensionGroup},
      {"flip_tipping", flipTippingGroup},
      {"frame_metrics", frameMetricsGroup},
      {"further_rounds", furtherRoundsGroup},
      {"holm", holmGroup},
      {"null_study", nullStudyGroup},
      {"odd_pass", oddPassGroup},
      {"passes_with_null", passesWithNullGroup},
      {"permutation_and_hl", secondOpinionGroup},
      {"planning", planningGroup},
      {"run_to_run_spread", spreadGroup},
      {"shared_spread", sharedSpreadGroup},
      {"study_difference", studyDifferenceGroup},
      {"suite_shared_visits", sharedSuiteGroup},
      {"suite_summary", separateSuiteGroup},
      {"verdicts", verdictsGroup},
      {"notice_threshold", noticeThresholdGroup},
      {"warm_up", warmUpGroup},
      {"yardsticks", yardsticksGroup},
  };
  return table;
}

}  // namespace

std::vector<std::string> computeGroups() {
  std::vector<std::string> names;
  for (const auto& [name, group] : groups()) names.push_back(name);
  return names;
}

Result<ordered_json> compute(const std::string& group, const json& input) {
  const auto found = groups().find(group);
  if (found == groups().end()) {
    std::string known;
    for (const std::string& name : computeGroups()) known += (known.empty() ? "" : ", ") + name;
    return Error{ErrorKind::Missing, "there is no group '" + group + "'", "compute", "Use one of: " + known};
  }
  if (!input.is_object())
    return Error{ErrorKind::Malformed, "the input is not a JSON object", "compute " + group, "Hand in one object { }"};
  if (auto checked = checkComputeInput(input, "compute " + group); !checked) return checked.error();
  try {
    return found->second(input);
  } catch (const json::exception& e) {
    // The library's accessors name the field that is missing or of the wrong kind.
    return Error{ErrorKind::Malformed, std::string("the input does not fit: ") + e.what(), "compute " + group,
                 "Compare it with the input objects in tests/vectors/" + group + ".json"};
  }
}

}  // namespace cli
