#pragma once

#include <optional>
#include <span>

#include "core/record/pass.h"
#include "core/record/record.h"
#include "core/study/schedule.h"

namespace core {

/// The planned look at which a study stands: its rounds are complete, and nothing of a later one is recorded. Nothing
/// between two looks.
[[nodiscard]] std::optional<int> lookReached(const Study& study, const Record& record);

/// Does this slot begin the round after a planned look? There the sheet waits for a person.
[[nodiscard]] bool followsLook(const Study& study, std::span<const Slot> schedule, std::size_t slot);

}  // namespace core
