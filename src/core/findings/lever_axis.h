#pragma once

#include <optional>
#include <span>
#include <string>

#include "core/estimate/effect.h"

namespace core {

/// What one row of a lever chart draws: percentages of improvement.
struct LeverBeam {
  double percent = 0;
  std::optional<PercentInterval> interval;
  double zone_percent = 0;  ///< the gain from which on this one matters; may be endless
};

/// What a lever chart's axis spans, percent; both ends are ticks.
struct LeverAxis {
  double low = -5;
  double high = 5;
  double step = 5;
};

/// 1, 2 or 5 times a power of ten, so that at most about so many steps make up a span.
[[nodiscard]] double roundStep(double span, int steps);

/// Every interval and every zone that is too small to act on, with some air, in about eight steps of 1, 2 or 5 times a
/// power of ten. An interval from too few passes can be endless, a zone too: they are cut where they would press the
/// others together.
[[nodiscard]] LeverAxis leverAxisOf(std::span<const LeverBeam> beams);

/// A tick of an axis of percentages: "−5 %", "0", "+10 %". Window and report write them alike.
[[nodiscard]] std::string tickText(double percent);

}  // namespace core
