#pragma once

#include <span>

#include "core/values/metric.h"

namespace core {

struct Study;

/// Does a level hold the target rate? From the interval of its mean rate.
enum class HoldsTarget { Holds, Fails, NotSettled, DoesNotApply };
[[nodiscard]] const char* holdsTargetName(HoldsTarget holds);

/// Shapes  units: what the estimator compared, ln of a rate or of a frame time where `is_log`
/// Source  t interval of a mean; its lower end at or above the target holds it, its upper end below fails
[[nodiscard]] HoldsTarget holdsTarget(std::span<const double> units, bool is_log, const Metric& metric,
                                      const Study& study);

}  // namespace core
