#pragma once

#include <span>

#include "core/estimate/contrast.h"

namespace core {

/// A contrast as another study printed it, ln scale.
struct StudyEffect {
  double d = 0;
  double se = 0;
  double df = 1;
};

/// So much of an independent estimate.
struct WeightedEstimate {
  double weight = 1;
  StudyEffect estimate;
};

/// A sum of independent estimates, each with its weight.
/// Errors  OutOfRange for a standard error below 0, degrees of freedom that are not above 0, numbers that are none, a
/// confidence outside (0, 1)
/// Source  variances add; df by Satterthwaite 1946
[[nodiscard]] Result<Contrast> independentSum(std::span<const WeightedEstimate> parts, double confidence);

/// What the change does now, over what it did then: second minus first. The two were not interleaved: whatever differs
/// between the benches is in it.
/// Errors, source  as independentSum; held by known-answer vectors
[[nodiscard]] Result<Contrast> studyDifference(const StudyEffect& first, const StudyEffect& second, double confidence);

}  // namespace core
