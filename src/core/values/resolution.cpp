#include "core/values/resolution.h"

#include <algorithm>
#include <cmath>

namespace core {
namespace {

bool isMultiple(double value, double steps_in_one) {
  const double steps = value * steps_in_one;
  constexpr double kRounding = 1e-14;  // of reading a decimal and of the product, relative
  constexpr double kExact = 1e12;      // beyond it every number would look whole
  return std::abs(steps) < kExact && std::abs(steps - std::round(steps)) <= kRounding * std::max(1.0, std::abs(steps));
}

}  // namespace

double resolutionOf(std::span<const double> values) {
  double lowest = INFINITY;
  double highest = -INFINITY;
  for (const double value : values) {
    if (!std::isfinite(value)) continue;
    lowest = std::min(lowest, value);
    highest = std::max(highest, value);
  }
  if (lowest > highest) return 0;
  constexpr int kMostDigits = 6;
  double steps_in_one = 1;
  for (int digits = 0; digits <= kMostDigits; ++digits, steps_in_one *= 10) {
    const bool fits = std::all_of(values.begin(), values.end(), [&](double value) {
      return !std::isfinite(value) || isMultiple(value, steps_in_one);
    });
    if (!fits) continue;
    const double step = 1 / steps_in_one;
    return digits == 0 || step >= (highest - lowest) / 10 ? step : 0;
  }
  return 0;
}

}  // namespace core
