#pragma once

#include <optional>

#include "core/findings/findings.h"

namespace core {

/// How much more of a design would make its interval narrow enough to decide: rounds, visits at each level, or passes
/// at each level. Half-widths on the ln scale.
struct ExtensionSize {
  double goal = 0;  ///< 0.6 of the threshold
  double now = 0;
  std::optional<int> further;  ///< 0 where it is narrow enough already; nothing where no number up to 1000 would do
  std::optional<double> then;  ///< the half-width with so many more, the spread held
};

/// Never sized from the effect; the spread of all of them then counts.
/// Source  half-widths of the estimators with their spread held; held by known-answer vectors
[[nodiscard]] std::optional<ExtensionSize> extensionSize(const Effect& effect, double threshold_percent,
                                                         double confidence);

/// Further rounds with which a finished plan's interval would be narrow enough to decide.
struct Extension {
  int rounds = 0;
  double half_width_percent = 0;           ///< of the headline's interval as it stands
  double extended_half_width_percent = 0;  ///< with so many more, which add nothing to the spread
};

/// The one extension that a complete plan of rounds is allowed, from its headline's spread, which stays that of the
/// interval: a size that the spread chose would make it too small. Nothing where the plan is
/// no complete plan of rounds, was extended before, has looks instead, is narrow enough already, or where no number
/// that a plan may have would do.
[[nodiscard]] std::optional<Extension> extensionOf(const Study& study, const Findings& findings);

/// The study with that many more rounds, a balanced shuffle of their own, drawn from its seed.
[[nodiscard]] Study extended(const Study& study, const Extension& extension);

/// The study with cases that were added when its plan was complete, measured in so many rounds of their own: a balanced
/// shuffle, drawn from its seed. What the first part says stays what it was.
[[nodiscard]] Study withSecondPart(const Study& study, std::vector<Case> cases, int rounds);

/// The study with one more round; it begins with the level with which fewer rounds begin.
[[nodiscard]] Study withOneMoreRound(const Study& study);

}  // namespace core
