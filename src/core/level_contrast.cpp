#include "core/level_contrast.h"

#include <algorithm>
#include <cmath>

namespace core {
namespace {

Result<Contrast> ofRounds(const LevelData& data, std::span<const double> weights, double confidence) {
  std::size_t rounds = data.levels.front().size();
  for (const auto& level : data.levels) rounds = std::min(rounds, level.size());
  std::vector<double> sums(rounds, 0);
  for (std::size_t round = 0; round < rounds; ++round)
    for (std::size_t level = 0; level < weights.size(); ++level)
      sums[round] += weights[level] * data.levels[level][round];
  return pairedDifference(sums, confidence);
}

}  // namespace

Result<Contrast> weightedContrast(const LevelData& data, std::span<const double> weights, double confidence) {
  if (data.estimator == Estimator::Rounds) return ofRounds(data, weights, confidence);
  double sum = 0;
  double variance = 0;       // passes: each level's own
  double satterthwaite = 0;  // the terms of its df
  double squares = 0;        // visits: pooled
  double df = 0;
  double inverse = 0;
  for (std::size_t level = 0; level < weights.size(); ++level) {
    if (weights[level] == 0) continue;
    const std::vector<double>& units = data.levels[level];
    if (units.empty())
      return Error{ErrorKind::TooFew, "there is no value at this level", "level " + std::to_string(level + 1),
                   "Run or import at least one pass there"};
    const auto n = static_cast<double>(units.size());
    const double w2 = weights[level] * weights[level];
    sum += weights[level] * meanOf(units);
    squares += sumOfSquares(units);
    df += n - 1;
    inverse += w2 / n;
    if (n < 2) continue;
    const double part = w2 * sumOfSquares(units) / (n - 1) / n;
    variance += part;
    satterthwaite += part * part / (n - 1);
  }
  if (df < 1) return Contrast{sum, {}, {}, NoInterval::TooFewPasses};
  if (data.estimator == Estimator::Visits) return contrastFrom(sum, std::sqrt(squares / df * inverse), df, confidence);
  return contrastFrom(sum, std::sqrt(variance), satterthwaite > 0 ? variance * variance / satterthwaite : 1,
                      confidence);
}

Result<Contrast> levelDifference(const LevelData& data, std::size_t from, std::size_t to, double confidence) {
  std::vector<double> weights(data.levels.size(), 0);
  weights[from] -= 1;
  weights[to] += 1;
  return weightedContrast(data, weights, confidence);
}

}  // namespace core
