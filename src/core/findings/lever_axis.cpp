#include "core/findings/lever_axis.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/notice_threshold.h"

namespace core {

double roundStep(double span, int steps) {
  constexpr double kLeast = 1e-9;  // a span of nothing has steps too
  const double rough = std::max(span / steps, kLeast);
  const double power = std::pow(10, std::floor(std::log10(rough)));
  for (const double factor : {1.0, 2.0, 5.0})
    if (rough <= factor * power) return factor * power;
  return 10 * power;
}

LeverAxis leverAxisOf(std::span<const LeverBeam> beams) {
  double low = -0.5;
  double high = 0.5;
  for (const LeverBeam& beam : beams) {
    const double reach = 3 * std::abs(beam.percent) + 10;
    const double zone = std::min(beam.zone_percent, 2 * reach);
    low = std::min(
        {low, 1.5 * lossBoundPercent(zone), beam.percent, beam.interval ? std::max(beam.interval->lo, -reach) : low});
    high = std::max({high, 1.5 * zone, beam.percent, beam.interval ? std::min(beam.interval->hi, reach) : high});
  }
  const double step = roundStep(high - low, 8);
  return {step * std::floor(low / step), step * std::ceil(high / step), step};
}

std::string tickText(double percent) {
  constexpr double kZero = 1e-9;  // ticks are added up
  if (std::abs(percent) < kZero) return "0";
  return fmt::format("{}{:.6g} %", percent < 0 ? "−" : "+", std::abs(percent));
}

}  // namespace core
