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

/// The confidence of every interval of a study as it stands: that of the last planned look whose rounds are complete,
/// before any that of the first.
[[nodiscard]] double intervalConfidence(const Study& study, const Record& record);

/// The study as its numbers are judged: its confidence is that of its intervals, and its looks are paid for.
[[nodiscard]] Study withLooksPaid(const Study& study, const Record& record);

/// Was the sheet ever at a planned look before its end, so that somebody could see results? Whatever is sealed now.
[[nodiscard]] bool wasLookTaken(const Study& study, const Record& record);

/// Is nothing that tells of the effect to be shown yet? While a sealed plan goes on, unless somebody opened the results
/// before, or the sheet stands at a planned look.
[[nodiscard]] bool isSealed(const Study& study, const Record& record);

/// The same of the cases that were added in a second part, while it goes on; what the first part said stays open.
[[nodiscard]] bool isSecondPartSealed(const Study& study, const Record& record);

/// Is what one of the study's cases does not to be shown yet?
[[nodiscard]] bool isSealed(const Study& study, const Record& record, const Case& one);

}  // namespace core
