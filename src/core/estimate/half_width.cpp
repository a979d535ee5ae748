#include "core/estimate/half_width.h"

#include <algorithm>
#include <cmath>

#include "core/values/percent.h"

namespace core {
namespace {

constexpr int kMostFurther = 100;

double variance(std::span<const double> values) {
  return sumOfSquares(values) / static_cast<double>(values.size() - 1);
}

/// A standard error and its degrees of freedom.
struct Spread {
  double se = 0;
  double df = 1;
};

// The spread held; a round more brings as many degrees of freedom as each of the others brought.
Spread spreadOfRounds(double se, double df, int rounds, int more) {
  return {se * std::sqrt(rounds / static_cast<double>(rounds + more)), df * (rounds + more - 1) / (rounds - 1)};
}

Spread spreadOfRounds(const Effect& effect, int more) {
  const auto rounds = static_cast<int>(effect.round_differences.size());
  const std::size_t telling = effect.spread_rounds.value_or(effect.round_differences.size());
  const double telling_df = static_cast<double>(telling) - 1;
  const double own_se = std::sqrt(variance(std::span(effect.round_differences).first(telling)) / rounds);
  if (effect.spread_rounds) return {own_se * std::sqrt(rounds / static_cast<double>(rounds + more)), telling_df};
  if (!effect.shared) return spreadOfRounds(own_se, rounds - 1, rounds, more);
  const Contrast& mixed = effect.shared->mixed;
  return spreadOfRounds(mixed.se.value_or(own_se), mixed.inference ? mixed.inference->df : rounds - 1, rounds, more);
}

Spread spreadOfVisits(const Effect& effect, int more) {
  const auto a = static_cast<double>(effect.baseline_units.size());
  const auto b = static_cast<double>(effect.changed_units.size());
  const double sd = std::sqrt((sumOfSquares(effect.baseline_units) + sumOfSquares(effect.changed_units)) / (a + b - 2));
  return {sd * std::sqrt(1 / (a + more) + 1 / (b + more)), a + b + 2 * more - 2};
}

// The variances and what flips add are held; more passes narrow only the passes' own part.
Spread spreadOfPasses(const Effect& effect, int more) {
  const double flips = effect.flip ? effect.flip->varianceOf(kPairWeights) : 0;
  if (effect.flip && effect.flip->is_visit_means) return {std::sqrt(flips), effect.flip->df};
  const double count_a = static_cast<double>(effect.baseline_units.size()) + more;
  const double count_b = static_cast<double>(effect.changed_units.size()) + more;
  const double a = variance(effect.baseline_units) / count_a;
  const double b = variance(effect.changed_units) / count_b;
  const double sum = a + b + flips;
  // Without any spread the values say nothing of their degrees of freedom; the design does.
  if (isWithoutSpread(std::sqrt(sum))) return {std::sqrt(sum), count_a + count_b - 2};
  const double parts =
      a * a / (count_a - 1) + b * b / (count_b - 1) + (effect.flip ? flips * flips / effect.flip->df : 0);
  return {std::sqrt(sum), sum * sum / parts};
}

Spread spreadOf(const Effect& effect, int more) {
  switch (effect.design.estimator) {
    case Estimator::Rounds: return spreadOfRounds(effect, more);
    case Estimator::Visits: return spreadOfVisits(effect, more);
    case Estimator::Passes: break;
  }
  return spreadOfPasses(effect, more);
}

}  // namespace

HalfWidth halfWidthInTwoStages(double se, double df, int rounds, double rounding, double confidence) {
  return [=](int more) {
    return tQuantile(df, confidence) * std::max(se * std::sqrt(rounds / static_cast<double>(rounds + more)), rounding);
  };
}

HalfWidth halfWidthOf(const Effect& effect, double confidence) {
  return [effect, confidence](int more) {
    const Spread spread = spreadOf(effect, more);
    return tQuantile(spread.df, confidence) * std::max(spread.se, effect.rounding);
  };
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
