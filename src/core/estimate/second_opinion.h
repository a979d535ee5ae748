#pragma once

#include <optional>

#include "core/estimate/effect.h"

namespace core {

/// Beside an estimate and never in its place: what the same units say without the normal distribution. As blind to
/// unseen flips as the t.
struct SecondOpinion {
  double arrangements = 0;                ///< all there are: of the units over the levels, or of the rounds' signs
  bool is_exact = false;                  ///< all were looked at, not drawn
  std::optional<std::size_t> as_extreme;  ///< arrangements at least as far apart as observed; only where exact
  double p = 1;
  double smallest_possible_p = 1;  ///< where even that does not tell, nothing is contradicted
  double shift = 0;                ///< Hodges–Lehmann, on the effect's scale
  bool is_too_few_to_tell = true;
};

/// Shapes  the effect's units: passes, visit means, or round differences whose signs change
/// `limit`: up to so many arrangements all are looked at; beyond, as many are drawn with a fixed seed
/// Source  permutation test (drawn p: Phipson & Smyth 2010); Hodges & Lehmann 1963; held by known-answer vectors
[[nodiscard]] SecondOpinion secondOpinion(const Effect& effect, double confidence, std::size_t limit = 200000);

}  // namespace core
