#pragma once

#include <optional>
#include <span>

#include "core/estimate/effect.h"

namespace core {

/// What one row of a lever chart draws: percentages of improvement.
struct LeverBeam {
  double percent = 0;
  std::optional<PercentInterval> interval;
};

/// What a lever chart's axis spans, percent; both ends are ticks.
struct LeverAxis {
  double low = -5;
  double high = 5;
  double step = 5;
};

/// Every interval and the zone that is too small to act on, with some air, in about eight steps of 1, 2 or 5 times a
/// power of ten. An interval from too few passes can be endless: it is cut where it would press the others together.
[[nodiscard]] LeverAxis leverAxisOf(std::span<const LeverBeam> beams, double threshold_percent);

}  // namespace core
