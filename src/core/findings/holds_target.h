#pragma once

#include <optional>
#include <span>
#include <string>

#include "core/estimate/effect.h"
#include "core/values/metric.h"

namespace core {

struct Study;

/// Does a level hold the target rate? From the interval of its mean rate.
enum class HoldsTarget { Holds, Fails, NotSettled, DoesNotApply };
[[nodiscard]] const char* holdsTargetName(HoldsTarget holds);

/// Shapes  units: what the estimator compared, ln of a rate or of a frame time where `is_log`
/// Source  t interval of a mean; its lower end at or above the target holds it, its upper end below fails
[[nodiscard]] HoldsTarget holdsTarget(std::span<const double> units, bool is_log, const Metric& metric,
                                      const Study& study, double target_fps);

/// By how much a level's mean rate would have to rise to reach the target, with the interval of that mean. Nothing
/// where no target applies, and where the mean reaches it. Shapes  as holdsTarget
[[nodiscard]] std::optional<PercentChange> neededFor(std::span<const double> units, bool is_log, const Metric& metric,
                                                     const Study& study, double target_fps);

/// What a case yields at one level, whatever the others say.
struct LevelValue {
  double mean = 0;  ///< in the metric's unit, geometric where it is a ratio
  HoldsTarget holds = HoldsTarget::DoesNotApply;
  std::optional<PercentChange> needed = {};  ///< by how much its rate would have to rise; nothing where it is enough
};
/// Nothing without a counted pass there.
[[nodiscard]] std::optional<LevelValue> levelValueOf(std::span<const VisitValues> visits, ConfigurationId at,
                                                     const Metric& metric, const Study& study);

/// "61.2 FPS, and reaches the target rate of 60 FPS", "52.0 FPS, below the target rate of 60 FPS: it would take 15.4 %
/// more".
[[nodiscard]] std::string levelText(const LevelValue& value, const Metric& metric, const Study& study);

}  // namespace core
