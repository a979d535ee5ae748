#pragma once

#include "core/study/study.h"

namespace core {

/// The same question asked in another shape, keeping what both can say: levels, cases, plan. A pair keeps the baseline
/// and the last level of its first variable; a crossing and a chain get a second variable; a chain begins with its
/// baseline and one step. More than two share their spread, as new studies do. The order is drawn anew where another
/// number of configurations makes it.
[[nodiscard]] Study reshaped(Study study, Shape shape);

/// With another number of configurations the order that was drawn no longer fits: it is drawn anew, from the same seed.
[[nodiscard]] Study redrawn(Study study);

/// Acts on the levels of one variable. Configurations that are listed keep naming the levels that they named.
/// Shapes  `level` of its levels. A level that a listed configuration names, or one of the last two, is not removed
[[nodiscard]] Study withLevelAdded(Study study, std::size_t variable);
[[nodiscard]] Study withLevelRemoved(Study study, std::size_t variable, std::size_t level);
/// One place up the list.
[[nodiscard]] Study withLevelRaised(Study study, std::size_t variable, std::size_t level);

}  // namespace core
