#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "core/judgement/doubts.h"

namespace core {

/// What stands over a study of which a level was measured for an earlier one: a caution that no measurement lifts, with
/// how far the bench moved meanwhile where both studies measured another level. `retired`: visits that do not count.
/// Source  the difference of two independent means of visits, each with the spread of its own visits
[[nodiscard]] std::vector<Doubt> takenDoubts(const Study& study, const Record& record,
                                             std::span<const std::int64_t> retired);

}  // namespace core
