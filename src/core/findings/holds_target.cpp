#include "core/findings/holds_target.h"

#include <cmath>

#include "core/estimate/contrast.h"
#include "core/estimate/effect.h"
#include "core/estimate/wording.h"
#include "core/study/study.h"

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

HoldsTarget holdsTarget(std::span<const double> units, bool is_log, const Metric& metric, const Study& study,
                        double target_fps) {
  if (!is_log || metric.direction != Direction::HigherIsBetter || !asFps(1, metric.unit))
    return HoldsTarget::DoesNotApply;
  if (units.size() < 2) return HoldsTarget::NotSettled;
  // The one-group case of a paired difference: a mean with its t interval.
  const auto mean = pairedDifference(units, study.confidence);
  if (!mean) return HoldsTarget::NotSettled;
  const double lo = mean->inference ? mean->inference->lo : mean->difference;
  const double hi = mean->inference ? mean->inference->hi : mean->difference;
  const double target = std::log(target_fps);
  if (lo >= target) return HoldsTarget::Holds;
  return hi < target ? HoldsTarget::Fails : HoldsTarget::NotSettled;
}

std::optional<LevelValue> levelValueOf(std::span<const VisitValues> visits, ConfigurationId at, const Metric& metric,
                                       const Study& study) {
  const LevelUnits units = levelUnits(visits, at, metric.scale);
  const auto mean = units.mean();
  if (!mean) return std::nullopt;
  return LevelValue{*mean, holdsTarget(units.values, units.is_log, metric, study, study.target_fps)};
}

std::string levelText(const LevelValue& value, const Metric& metric, const Study& study) {
  const std::string text = valueText(value.mean, metric.unit);
  const std::string target = valueText(study.target_fps, "FPS");
  switch (value.holds) {
    case HoldsTarget::Holds: return text + ", and reaches the target rate of " + target;
    case HoldsTarget::Fails: return text + ", below the target rate of " + target;
    case HoldsTarget::NotSettled:
      return text + ", and whether it reaches the target rate of " + target + " is not settled";
    case HoldsTarget::DoesNotApply: break;
  }
  return text;
}

}  // namespace core
