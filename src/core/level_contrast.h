#pragma once

#include <span>
#include <vector>

#include "core/contrast.h"
#include "core/effect.h"

namespace core {

/// Several levels or cells, each by the units that its design allows: passes, visit means, or one value a round.
struct LevelData {
  Estimator estimator = Estimator::Passes;
  std::vector<std::vector<double>> levels;  ///< ln scale; for rounds all of one length, matched by position

  [[nodiscard]] double meanOfLevel(std::size_t level) const { return meanOf(levels[level]); }
};

/// A weighted sum of level means with its evidence. Passes: variances not assumed equal, over the levels in the sum.
/// Visits: one variance, pooled over them. Rounds: t on each round's own sum. Shapes  one weight a level; those of
/// weight 0 are left out Errors  TooFew for a level in the sum without values; OutOfRange as pairedDifference Source
/// Welch 1947, Satterthwaite 1946; held by known-answer vectors
[[nodiscard]] Result<Contrast> weightedContrast(const LevelData& data, std::span<const double> weights,
                                                double confidence);

/// Level `to` minus level `from`.
[[nodiscard]] Result<Contrast> levelDifference(const LevelData& data, std::size_t from, std::size_t to,
                                               double confidence);

}  // namespace core
