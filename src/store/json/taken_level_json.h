#pragma once

#include <optional>
#include <string>

#include "core/record/taken_level.h"

namespace store {

/// What a study file keeps of a level that was measured for an earlier study; see docs/study-format.md.
[[nodiscard]] std::string takenLevelToJson(const core::TakenLevel& taken);
/// Nothing where it is none.
[[nodiscard]] std::optional<core::TakenLevel> takenLevelFromJson(const std::string& text);

}  // namespace store
