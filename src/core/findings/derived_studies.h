#pragma once

#include <optional>
#include <string>

#include "core/findings/findings.h"
#include "core/record/unreachable.h"
#include "core/study/study.h"

namespace core {

/// The same question as a new study: with an order of its own, drawn from `seed`, and its one extension ahead of it.
[[nodiscard]] Study startedAnew(Study study, int seed);

/// The null study of a study: the same flips and passes, the level stays.
/// Shapes  `visits`: how many, in pairs; fewer than 6 are raised to 8, since six are needed and one may fail
[[nodiscard]] Study nullStudyOf(const Study& study, int visits);

/// A surprise between two configurations asked again by itself, beside the case that moved least, without looks and
/// sealed. In rounds; where the flip is for good it cannot go back and forth, and is asked in the same order again.
[[nodiscard]] Study confirmationOf(const Study& study, const Findings& findings, std::size_t case_index,
                                   PairOf pair = {});

/// The level to ask about in place of one that could not be reached: the next lower of its kind. Of a pair alone;
/// nothing where nobody can tell, or where it is the study's other level.
[[nodiscard]] std::optional<std::string> lowerLevelFor(const Study& study, const Unreachable& missed);
/// The same question with that level; how it is set is for a person to say.
[[nodiscard]] std::optional<Study> withLowerLevel(const Study& study, const Unreachable& missed);

/// The level that a pair or a ladder leaves open below its lowest: "Gen 2" of Gen 4 and Gen 3. Nothing where nobody can
/// tell.
[[nodiscard]] std::optional<std::string> levelLeftOpen(const Study& study);
/// What that level would say: the lowest level against it, as a pair; how it is set is for a person to say.
[[nodiscard]] std::optional<Study> askedFurtherDown(const Study& study);

}  // namespace core
