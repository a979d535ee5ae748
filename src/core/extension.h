#pragma once

#include <optional>

#include "core/findings.h"

namespace core {

/// Further rounds with which a finished plan's interval would be narrow enough to decide.
struct Extension {
  int rounds = 0;
  double half_width_percent = 0;           ///< of the headline's interval as it stands
  double extended_half_width_percent = 0;  ///< with so many more, the spread held
};

/// The one extension that a complete plan of rounds is allowed: the smallest number up to 1000 with which the
/// headline's half-width is at most 0.6 of the threshold. Never sized from the effect. Nothing where the plan is no
/// complete plan of rounds, was extended before, is narrow enough already, or where no number would do. Source
/// half-width t s / sqrt(R), s from the spread of the round differences
[[nodiscard]] std::optional<Extension> extensionOf(const Study& study, const Findings& findings);

/// The study with that many more rounds, a balanced shuffle of their own, drawn from its seed.
[[nodiscard]] Study extended(const Study& study, const Extension& extension);

/// The study with one more round; it begins with the level with which fewer rounds begin.
[[nodiscard]] Study withOneMoreRound(const Study& study);

}  // namespace core
