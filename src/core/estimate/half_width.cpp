#include "core/estimate/half_width.h"

#include <boost/math/distributions/students_t.hpp>
#include <cmath>

#include "core/values/percent.h"

namespace core {
namespace {

constexpr int kMostFurther = 100;

double quantile(double df, double confidence) {
  return boost::math::quantile(boost::math::students_t(df), (1 + confidence) / 2);
}

double variance(std::span<const double> values) {
  return sumOfSquares(values) / static_cast<double>(values.size() - 1);
}

HalfWidth ofVisits(const Effect& effect, double confidence) {
  const auto a = static_cast<double>(effect.baseline_units.size());
  const auto b = static_cast<double>(effect.changed_units.size());
  const double sd = std::sqrt((sumOfSquares(effect.baseline_units) + sumOfSquares(effect.changed_units)) / (a + b - 2));
  return [=](int more) {
    return quantile(a + b + 2 * more - 2, confidence) * sd * std::sqrt(1 / (a + more) + 1 / (b + more));
  };
}

// The variances and what flips add are held; more passes narrow only the passes' own part.
HalfWidth ofPasses(const Effect& effect, double confidence) {
  const double variance_a = variance(effect.baseline_units);
  const double variance_b = variance(effect.changed_units);
  const auto count_a = static_cast<double>(effect.baseline_units.size());
  const auto count_b = static_cast<double>(effect.changed_units.size());
  const std::optional<FlipSd> flip = effect.flip;
  return [=](int more) {
    const double a = variance_a / (count_a + more);
    const double b = variance_b / (count_b + more);
    const double c = flip ? flip->varianceOf(kPairWeights) : 0;
    const double sum = a + b + c;
    const double parts = a * a / (count_a + more - 1) + b * b / (count_b + more - 1) + (flip ? c * c / flip->df : 0);
    return quantile(sum * sum / parts, confidence) * std::sqrt(sum);
  };
}

}  // namespace

HalfWidth halfWidthOfRounds(double sd, int rounds, double confidence) {
  return [=](int more) {
    const int n = rounds + more;
    return quantile(n - 1, confidence) * sd / std::sqrt(n);
  };
}

HalfWidth halfWidthOf(const Effect& effect, double confidence) {
  switch (effect.design.estimator) {
    case Estimator::Rounds:
      return halfWidthOfRounds(std::sqrt(variance(effect.round_differences)),
                               static_cast<int>(effect.round_differences.size()), confidence);
    case Estimator::Visits: return ofVisits(effect, confidence);
    case Estimator::Passes: break;
  }
  return ofPasses(effect, confidence);
}

std::optional<FurtherRounds> furtherRoundsToSettle(const Effect& effect, Direction direction,
                                                   const NoticeThreshold& threshold, double confidence) {
  if (!effect.contrast.inference) return std::nullopt;
  const HalfWidth half_width = halfWidthOf(effect, confidence);
  const double improvement = signOf(direction) * effect.contrast.difference;
  for (int more = 0; more <= kMostFurther; ++more) {
    const double half = half_width(more);
    const Verdict verdict =
        verdictOf(PercentInterval{percentOfLn(improvement - half), percentOfLn(improvement + half)}, threshold);
    if (verdict != Verdict::NotSettled) return FurtherRounds{more, verdict};
  }
  return std::nullopt;
}

}  // namespace core
