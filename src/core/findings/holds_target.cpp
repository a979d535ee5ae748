#include "core/findings/holds_target.h"

#include <cmath>

#include <fmt/format.h>

#include "core/estimate/contrast.h"
#include "core/estimate/effect.h"
#include "core/estimate/wording.h"
#include "core/study/study.h"
#include "core/values/percent.h"

namespace core {

const char* holdsTargetName(HoldsTarget holds) {
  switch (holds) {
    case HoldsTarget::Holds: return "holds";
    case HoldsTarget::Fails: return "fails";
    case HoldsTarget::NotSettled: return "not settled";
    case HoldsTarget::DoesNotApply: return "does not apply";
  }
  return "unknown";
}

namespace {

// Of a level's units, ln of a rate: mean, and the ends of its interval where there is one.
struct RateInterval {
  double mean = 0;
  double lo = 0;
  double hi = 0;
  bool has_interval = false;
};

bool isRate(bool is_log, const Metric& metric) {
  return is_log && metric.direction == Direction::HigherIsBetter && asFps(1, metric.unit).has_value();
}

std::optional<RateInterval> rateInterval(std::span<const double> units, double confidence) {
  // The one-group case of a paired difference: a mean with its t interval.
  const auto mean = pairedDifference(units, confidence);
  if (!mean) return std::nullopt;
  const auto& inference = mean->inference;
  return RateInterval{mean->difference, inference ? inference->lo : mean->difference,
                      inference ? inference->hi : mean->difference, inference.has_value()};
}

}  // namespace

HoldsTarget holdsTarget(std::span<const double> units, bool is_log, const Metric& metric, const Study& study,
                        double target_fps) {
  if (!isRate(is_log, metric)) return HoldsTarget::DoesNotApply;
  if (units.size() < 2) return HoldsTarget::NotSettled;
  const auto rate = rateInterval(units, study.confidence);
  if (!rate) return HoldsTarget::NotSettled;
  const double target = std::log(target_fps);
  if (rate->lo >= target) return HoldsTarget::Holds;
  return rate->hi < target ? HoldsTarget::Fails : HoldsTarget::NotSettled;
}

std::optional<PercentChange> neededFor(std::span<const double> units, bool is_log, const Metric& metric,
                                       const Study& study, double target_fps) {
  const auto rate = isRate(is_log, metric) ? rateInterval(units, study.confidence) : std::nullopt;
  const double target = std::log(target_fps);
  if (!rate || rate->mean >= target) return std::nullopt;
  PercentChange needed{percentOfLn(target - rate->mean), {}};
  if (rate->has_interval) needed.interval = {percentOfLn(target - rate->hi), percentOfLn(target - rate->lo)};
  return needed;
}

std::optional<LevelValue> levelValueOf(std::span<const VisitValues> visits, ConfigurationId at, const Metric& metric,
                                       const Study& study) {
  const LevelUnits units = levelUnits(visits, at, metric.scale);
  const auto mean = units.mean();
  if (!mean) return std::nullopt;
  return LevelValue{*mean, holdsTarget(units.values, units.is_log, metric, study, study.target_fps),
                    neededFor(units.values, units.is_log, metric, study, study.target_fps)};
}

std::string levelText(const LevelValue& value, const Metric& metric, const Study& study) {
  const std::string text = valueText(value.mean, metric.unit);
  const std::string target = valueText(study.target_fps, "FPS");
  switch (value.holds) {
    case HoldsTarget::Holds: return text + ", and reaches the target rate of " + target;
    case HoldsTarget::Fails:
      return fmt::format("{}, below the target rate of {}: it would take {:.1f} % more", text, target,
                         value.needed->value);
    case HoldsTarget::NotSettled:
      return text + ", and whether it reaches the target rate of " + target + " is not settled";
    case HoldsTarget::DoesNotApply: break;
  }
  return text;
}

}  // namespace core
