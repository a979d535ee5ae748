#pragma once

#include "core/study.h"

namespace core {

/// The null study of a study: the same flips and passes, the level stays.
/// Shapes  `visits`: how many, in pairs; fewer than 6 are raised to 8, since six are needed and one may fail
[[nodiscard]] Study nullStudyOf(const Study& study, int visits);

}  // namespace core
