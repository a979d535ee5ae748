#include "cli/compute/compute_claims.h"

#include <algorithm>
#include <string>
#include <vector>

#include "core/estimate/claims.h"
#include "core/estimate/effect.h"
#include "core/estimate/study_difference.h"
#include "core/values/percent.h"
#include "report/json/claim_json.h"
#include "report/json/or_null.h"

namespace cli {

using core::Error;
using core::ErrorKind;
using core::Result;
using nlohmann::json;
using nlohmann::ordered_json;

// Each case as its contrast has it, improvement scale.
Result<ordered_json> claimsGroup(const json& input) {
  const double confidence = input.at("confidence");
  const core::NoticeThreshold threshold = core::noticeThreshold(input.at("threshold_percent"));
  const double loss = core::lnOfPercent(threshold.loss_percent);
  const double gain = core::lnOfPercent(threshold.gain_percent);
  std::vector<core::Claimed> claims;
  for (const json& one : input.at("cases")) {
    const core::Contrast contrast = core::contrastFrom(one.at("d"), one.at("se"), one.at("df"), confidence);
    core::Claimed& claim = claims.emplace_back();
    claim.verdict = core::verdictOf(core::percentChangeOf(contrast).interval, threshold);
    claim.p = core::nullPsOf(contrast, loss, gain);
  }
  std::vector<core::Claimed*> family;
  for (core::Claimed& one : claims) family.push_back(&one);
  core::adjustFamily(family, confidence, "cases");
  ordered_json out{{"cases", ordered_json::array()}};
  for (const core::Claimed& one : claims) {
    ordered_json said{{"verdict", core::verdictName(one.verdict)}};
    report::addClaimPs(said, one);
    const auto holds = one.p_holm ? core::doesHold(one.verdict, *one.p_holm, 1 - confidence) : std::nullopt;
    said["holds_after_adjustment"] = holds ? ordered_json(*holds) : ordered_json();
    out["cases"].push_back(said);
  }
  return out;
}

// One contrast of configurations that share their spread.
Result<ordered_json> sharedSpreadGroup(const json& input) {
  const auto names = input.at("configurations").get<std::vector<std::string>>();
  std::vector<core::VisitValues> visits;
  int number = 0;
  for (const json& round : input.at("rounds")) {
    ++number;
    for (std::size_t i = 0; i < names.size(); ++i)
      if (round.contains(names[i]))
        visits.push_back({core::configurationAt(i), static_cast<int>(visits.size()) + 1, number,
                          round.at(names[i]).get<std::vector<double>>()});
  }
  std::vector<double> weights(names.size(), 0);
  for (const auto& [name, weight] : input.at("weights").items()) {
    const auto found = std::find(names.begin(), names.end(), name);
    if (found == names.end())
      return Error{ErrorKind::Missing, "no configuration is called '" + name + "'", "weights",
                   "Name one that is listed"};
    weights[static_cast<std::size_t>(found - names.begin())] = weight;
  }
  const auto effect =
      core::weightedEffectOf(visits, weights, input.value("confidence", 0.95), {}, core::Scale::Ratio, visits);
  if (!effect) return effect.error();
  const core::Contrast& contrast = effect->contrast;
  ordered_json out{{"d", contrast.difference}, {"se", report::orNull(contrast.se)}};
  if (const auto& inference = contrast.inference)
    out.update({{"df", inference->df},
                {"t", inference->t},
                {"p", inference->p},
                {"d_lo", inference->lo},
                {"d_hi", inference->hi}});
  out["rounds_used"] = effect->design.complete_rounds;
  out["complete_rounds"] = effect->shared ? effect->shared->residual.rounds : 0;
  out["own_se"] = report::orNull(effect->shared ? effect->shared->own.se : effect->contrast.se);
  out["residual_sd"] = effect->shared ? ordered_json(effect->shared->residual.sd) : ordered_json();
  return out;
}

core::Result<ordered_json> studyDifferenceGroup(const json& input) {
  const auto effect = [&](const char* name) {
    const json& of = input.at(name);
    return core::StudyEffect{of.at("d").get<double>(), of.at("se").get<double>(), of.at("df").get<double>()};
  };
  const auto difference = core::studyDifference(effect("first"), effect("second"), input.value("confidence", 0.95));
  if (!difference) return difference.error();
  ordered_json out{{"d", difference->difference},
                   {"se", report::orNull(difference->se)},
                   {"df", nullptr},
                   {"p", nullptr},
                   {"ratio_percent", core::percentOfLn(difference->difference)},
                   {"ratio_lo_percent", nullptr},
                   {"ratio_hi_percent", nullptr}};
  if (const auto& inference = difference->inference) {
    out["df"] = inference->df;
    out["p"] = inference->p;
    out["ratio_lo_percent"] = core::percentOfLn(inference->lo);
    out["ratio_hi_percent"] = core::percentOfLn(inference->hi);
  }
  return out;
}

}  // namespace cli
