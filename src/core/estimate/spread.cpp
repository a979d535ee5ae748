#include "core/estimate/spread.h"

#include <cmath>

namespace core {

std::optional<RunToRunSpread> runToRunSpread(std::span<const VisitValues> visits) {
  double squares = 0;
  RunToRunSpread spread;
  for (const VisitValues& visit : visits) {
    if (visit.values.empty()) continue;
    std::vector<double> y;
    for (const double value : visit.values) {
      if (value <= 0) return std::nullopt;
      y.push_back(std::log(value));
    }
    squares += sumOfSquares(y);
    spread.df += static_cast<int>(y.size()) - 1;
  }
  if (spread.df < 1) return std::nullopt;
  const double variance = squares / spread.df;
  spread.pass_sd = std::sqrt(variance);
  spread.percent = 100.0 * std::sqrt(std::expm1(variance));
  return spread;
}

}  // namespace core
