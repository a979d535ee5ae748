#pragma once

#include <optional>
#include <span>

#include "core/estimate/units.h"

namespace core {

/// What is left of the visit means once each round and each configuration has a mean of its own: how much the
/// configurations of a study scatter, all together.
struct RoundResidual {
  double sd = 0;
  double df = 0;                  ///< (rounds - 1) (configurations - 1)
  int rounds = 0;                 ///< that hold a counted pass of all configurations
  std::optional<double> p_alike;  ///< of Bartlett's test that all scatter alike; nothing where it cannot be asked
  ConfigurationId widest{};       ///< the one that scatters most
  bool operator==(const RoundResidual&) const = default;
};

/// Shapes  visits of all configurations, on the scale that contrasts use; those without a value are skipped, and so are
/// a
///         configuration without any and rounds that were added by the spread. Nothing for two configurations, whose
///         residual is their contrast's own spread, and where fewer than two rounds are complete
/// Source  two-way analysis of variance without interaction; Bartlett 1937 on its residuals; held by vectors
[[nodiscard]] std::optional<RoundResidual> roundResidual(std::span<const VisitValues> visits);

/// A contrast of `rounds` round sums with the spread that its configurations share mixed half and half with its own,
/// for they need not scatter alike: se^2 = (a v_r + f v_o)/(a + f), df = a + f, where f is its own degrees of freedom
/// and a what the residual has more to tell, at most f. `size`: of the values, as contrastFrom takes it.
/// Source  held by vectors; by simulation the interval stays honest where one level scatters twice as much
[[nodiscard]] Contrast withSharedSpread(const Contrast& own, double own_df, int rounds, Weights weights,
                                        const RoundResidual& residual, double confidence, double size);

}  // namespace core
