#pragma once

#include <optional>
#include <span>

#include "core/estimate/effect.h"

namespace core {

/// How much passes of one visit differ from each other.
struct RunToRunSpread {
  double pass_sd = 0;  ///< pooled within-visit sd of ln(metric)
  double percent = 0;  ///< 100 sqrt(exp(s^2) - 1)
  int df = 0;
};

/// Nothing where no visit has two passes, or a value is 0 or below.
[[nodiscard]] std::optional<RunToRunSpread> runToRunSpread(std::span<const VisitValues> visits);

}  // namespace core
