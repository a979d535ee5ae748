#pragma once

#include <vector>

#include "core/judgement/doubts.h"
#include "core/record/record.h"
#include "core/study/schedule.h"

namespace core {

/// Other programs may keep this much of one core busy before the bench counts as disturbed, in percent: the usual
/// murmur of a machine at rest.
inline constexpr double kQuietPercent = 20;

/// Doubts that rest on how the passes went: a preset that reset itself, other programs at work, limits that set in,
/// what was left out of the sheet or put into it, a case that moved and should not have.
[[nodiscard]] std::vector<Doubt> passDoubts(const Study& study, const Record& record, const Findings& findings);

/// Why the result that somebody typed looks like a slip beside the others of its case, as a sentence; empty where it
/// does not.
[[nodiscard]] std::string typingSlip(std::span<const Slot> schedule, std::span<const Pass> passes, const Pass& pass);

}  // namespace core
