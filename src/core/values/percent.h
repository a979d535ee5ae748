#pragma once

#include <cmath>

namespace core {

/// Percent of an ln value: 100 (exp(v) - 1), without losing digits near 0.
inline double percentOfLn(double ln_value) { return 100.0 * std::expm1(ln_value); }

/// The ln value of a percentage, the inverse of percentOfLn. `percent` above -100.
inline double lnOfPercent(double percent) { return std::log1p(percent / 100.0); }

}  // namespace core
