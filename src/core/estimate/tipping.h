#pragma once

#include <optional>

#include "core/estimate/effect.h"

namespace core {

/// The flip sd (ln scale) at which a one-visit result would no longer hold: the interval's nearer end, widened by flips
/// of that sd, reaches `bound` (ln scale, >= 0). Said as "unless changing the setting by itself moves the result by
/// more". Returns nothing when there is nothing to tip: no interval, the estimate within the bound, or the root not
/// real; nothing too for an effect whose flips were seen.
[[nodiscard]] std::optional<double> tippingFlipSd(const Effect& effect, double bound);

}  // namespace core
