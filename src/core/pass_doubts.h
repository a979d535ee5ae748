#pragma once

#include <vector>

#include "core/doubts.h"
#include "core/record.h"

namespace core {

/// Doubts that rest on how the passes went: a preset that reset itself, other programs at work, limits that set in,
/// what was left out of the sheet or put into it, a case that moved and should not have.
[[nodiscard]] std::vector<Doubt> passDoubts(const Study& study, const Record& record, const Findings& findings);

}  // namespace core
