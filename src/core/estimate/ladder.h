#pragma once

#include <functional>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/estimate/units.h"
#include "core/values/metric.h"

namespace core {

/// A level of a ladder: what it offers, as a number that counts as exact (GB/s, W, MT/s).
struct Rung {
  std::string name;
  double resource = 0;
};

/// Places of rungs by what they offer; those that offer the same in their order.
[[nodiscard]] std::vector<std::size_t> weakestFirst(const std::vector<Rung>& rungs);

/// How much of a step in the resource arrives: 1 = fully bound by it, for a time as well; 0 = indifferent.
struct Elasticity {
  double value = 0;
  double lo = 0;
  double hi = 0;
};
/// Shapes  `step`: ln difference of the metric from one rung to the next, with an interval
/// Errors  nothing where the step has no interval, or both rungs offer the same
[[nodiscard]] std::optional<Elasticity> elasticityOf(const Contrast& step, Direction direction, const Rung& from,
                                                     const Rung& to);

/// How far a level falls short of the best one, ln scale, direction taken out.
struct Shortfall {
  double value = 0;
  double upper = 0;  ///< at the upper end of its two-sided interval; 0 for the best itself
  double lower = 0;  ///< at the lower end
  bool is_enough = false;
};

/// The least of a resource with which nothing that matters is missing. Conservative: a level truly close enough may be
/// passed over.
struct EnoughPoint {
  std::size_t best = 0;
  std::vector<Shortfall> levels;
  std::optional<std::size_t>
      enough;  ///< lowest such that it and every higher one qualify; none where the highest does not
  std::optional<std::size_t> lowest_by_itself;  ///< lowest that qualifies alone
};
/// What separates two levels, improvement scale: `to` minus `from`.
using LevelContrast = std::function<Result<Contrast>(std::size_t from, std::size_t to)>;
/// Shapes  `goodness`: one a level, improvement scale, the best is the largest; one rung a level; at least one
/// Errors  those of `contrast`; TooFew where a level has no interval against the best
[[nodiscard]] Result<EnoughPoint> enoughPointFrom(std::span<const double> goodness, const std::vector<Rung>& rungs,
                                                  const LevelContrast& contrast, double threshold_percent);

/// Shapes  one rung a level; at least one. Errors  as contrastOf; TooFew where a level has no interval against
/// the best
[[nodiscard]] Result<EnoughPoint> enoughPointOf(const Units& units, const std::vector<Rung>& rungs, Direction direction,
                                                double threshold_percent, double confidence);

}  // namespace core
