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

/// What a variable and its levels are called until a person names them.  Shapes  `place` of the variable
[[nodiscard]] std::string givenVariableName(std::size_t place);
[[nodiscard]] std::vector<Level> givenLevels();

/// A chain with one more variable of which steps can be made; what is listed so far leaves it at its first level.
[[nodiscard]] Study withVariableAdded(Study study);

/// A chain with one more step at its end: one variable one level on from the last configuration, the first variable
/// first; where none can go on, any change of one variable that is not listed yet; the same study where all are. It is
/// called by the level that it moves to.
[[nodiscard]] Study withStepAdded(Study study);

/// A variable called otherwise; an order that is grouped by it stays so.
[[nodiscard]] Study withName(Study study, std::size_t variable, const std::string& name);

/// One level as a person wants it. A configuration that is called by this level keeps being called so.
[[nodiscard]] Study withLevel(Study study, std::size_t variable, std::size_t level, const Level& wanted);

/// Acts on the levels of one variable. Configurations that are listed keep naming the levels that they named.
/// Shapes  `level` of its levels. A level that a listed configuration names, or one of the last two, is not removed
[[nodiscard]] Study withLevelAdded(Study study, std::size_t variable);
[[nodiscard]] Study withLevelRemoved(Study study, std::size_t variable, std::size_t level);
/// One place up the list.
[[nodiscard]] Study withLevelRaised(Study study, std::size_t variable, std::size_t level);

}  // namespace core
