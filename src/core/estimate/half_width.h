#pragma once

#include <functional>
#include <optional>
#include <span>

#include "core/estimate/effect.h"
#include "core/estimate/verdict.h"

namespace core {

/// Half the width of an interval, ln scale, with `more` further rounds, visits at each level, or passes at each level.
using HalfWidth = std::function<double(int more)>;

/// Of an effect that has an interval, its spread and what flips add held; never below what the last digit of typed
/// values hides.
/// Source  Student t, paired and pooled; Satterthwaite 1946; held by known-answer vectors
[[nodiscard]] HalfWidth halfWidthOf(const Effect& effect, double confidence);

/// Of a mean over `rounds` rounds that is known with that standard error and those degrees of freedom, of its own or
/// shared with other configurations, where further rounds add to the mean only, since the spread of those so far chose
/// their number. `rounding`: the standard error is never below it.
/// Source  two-stage rule of Stein 1945
[[nodiscard]] HalfWidth halfWidthInTwoStages(double se, double df, int rounds, double rounding, double confidence);

/// How much more of a design would be expected to change a verdict, effect and spread held. For showing only, beside
/// "not settled".
struct FurtherRounds {
  int further = 0;  ///< 0 where the verdict is another one already
  Verdict expected = Verdict::NotSettled;
};
/// Nothing where up to 100 more would not, or there is no interval. `threshold` as for the verdict.
[[nodiscard]] std::optional<FurtherRounds> furtherRoundsToSettle(const Effect& effect, Direction direction,
                                                                 const NoticeThreshold& threshold, double confidence);

}  // namespace core
