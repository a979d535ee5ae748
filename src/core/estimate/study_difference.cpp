#include "core/estimate/study_difference.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace core {

Result<Contrast> independentSum(std::span<const WeightedEstimate> parts, double confidence) {
  if (auto fine = checkConfidence(confidence); !fine) return fine.error();
  double difference = 0;
  double variance = 0;
  double satterthwaite = 0;
  double size = 1;
  for (const auto& [weight, one] : parts) {
    if (!std::isfinite(one.d) || !std::isfinite(one.se) || one.se < 0 || !(one.df > 0))
      return Error{ErrorKind::OutOfRange, "an effect needs a finite d, an se of 0 or more and a df above 0", "effects",
                   "Give d, se and df as the study prints them"};
    const double part = weight * weight * one.se * one.se;
    difference += weight * one.d;
    variance += part;
    satterthwaite += part * part / one.df;
    size = std::max(size, std::abs(one.d));
  }
  return contrastFrom(difference, std::sqrt(variance), satterthwaite > 0 ? variance * variance / satterthwaite : 1,
                      confidence, size);
}

Result<Contrast> studyDifference(const StudyEffect& first, const StudyEffect& second, double confidence) {
  const std::array parts{WeightedEstimate{-1, first}, WeightedEstimate{1, second}};
  return independentSum(parts, confidence);
}

}  // namespace core
