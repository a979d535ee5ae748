#include "report/json/effect_json.h"

#include "report/json/or_null.h"

#include "core/values/percent.h"

namespace report {
namespace {

using nlohmann::ordered_json;

ordered_json reasonJson(const core::Contrast& contrast) {
  if (!contrast.no_interval) return nullptr;
  if (*contrast.no_interval == core::NoInterval::BeyondNumbers) return "values too large to square";
  return *contrast.no_interval == core::NoInterval::TooFewPasses ? "fewer than 2 passes at a level"
                                                                 : "no spread: the metric's resolution hides it";
}

ordered_json caveatJson(const core::Effect& effect, const std::string& flip_date) {
  if (effect.flip) return "flip variation taken from the null study of " + flip_date;
  if (effect.isFlipUnseen()) return "flip variation unseen";
  return nullptr;
}

// The numbers of the t interval under a prefix; null where there is no interval.
void addInference(ordered_json& out, const core::Contrast& contrast, const std::string& prefix, bool with_t) {
  const auto pick = [&](double core::Inference::*member) {
    return contrast.inference ? ordered_json((*contrast.inference).*member) : ordered_json();
  };
  out[prefix + "se"] = orNull(contrast.se);
  out[prefix + "df"] = pick(&core::Inference::df);
  if (with_t) out[prefix + "t"] = pick(&core::Inference::t);
  out[prefix + "p"] = pick(&core::Inference::p);
}

void addPlain(ordered_json& out, const core::Contrast& contrast) {
  out["log_effect"] = false;
  out["plain_difference"] = contrast.difference;
  out["interval"] = contrast.inference.has_value();
  out["reason"] = reasonJson(contrast);
  addInference(out, contrast, "plain_", false);
  out["plain_lo"] = contrast.inference ? ordered_json(contrast.inference->lo) : ordered_json();
  out["plain_hi"] = contrast.inference ? ordered_json(contrast.inference->hi) : ordered_json();
}

void addEnds(ordered_json& out, const std::string& name, const core::PercentChange& change) {
  out[name + "_lo_percent"] = change.interval ? ordered_json(change.interval->lo) : ordered_json();
  out[name + "_hi_percent"] = change.interval ? ordered_json(change.interval->hi) : ordered_json();
}

void addCounts(ordered_json& out, const core::Effect& effect) {
  const core::EstimatorChoice& design = effect.design;
  out["n_baseline"] = design.passes[0];
  out["n_changed"] = design.passes[1];
  out["visits_baseline"] = design.visits[0];
  out["visits_changed"] = design.visits[1];
  out["complete_rounds"] = design.complete_rounds;
  out["rounds_left_out"] = design.incomplete_rounds;
  if (design.estimator == core::Estimator::Rounds) out["round_differences"] = effect.round_differences;
}

}  // namespace

ordered_json effectJson(const core::Effect& effect, core::Direction direction, const std::string& unit,
                        const std::string& flip_date) {
  ordered_json out{{"estimator", core::estimatorName(effect.design.estimator)}};
  if (!effect.is_log) {
    addPlain(out, effect.contrast);
    return out;
  }
  const core::PercentChange change = core::percentChangeOf(effect.contrast);
  const core::PercentChange improvement = core::improvementPercent(effect, direction);
  out["d"] = effect.contrast.difference;
  out["change_percent"] = change.value;
  out["inverse_percent"] = core::percentOfLn(-effect.contrast.difference);
  out["improvement_percent"] = improvement.value;
  out["caveat"] = caveatJson(effect, flip_date);
  out["interval"] = effect.contrast.inference.has_value();
  out["reason"] = reasonJson(effect.contrast);
  addInference(out, effect.contrast, "", true);
  out["d_lo"] = effect.contrast.inference ? ordered_json(effect.contrast.inference->lo) : ordered_json();
  out["d_hi"] = effect.contrast.inference ? ordered_json(effect.contrast.inference->hi) : ordered_json();
  addEnds(out, "change", change);
  addEnds(out, "improvement", improvement);
  addCounts(out, effect);
  const auto before = core::asFps(effect.level_baseline, unit);
  const auto after = core::asFps(effect.level_changed, unit);
  if (before && after) {
    out["baseline_fps"] = *before;
    out["changed_fps"] = *after;
    out["fps_gained"] = *after - *before;
    out["ms_per_frame_change"] = 1000 / *after - 1000 / *before;
  }
  return out;
}

}  // namespace report
