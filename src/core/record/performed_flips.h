#pragma once

#include <cstdint>
#include <map>
#include <span>
#include <vector>

#include "core/record/pass.h"
#include "core/study/study.h"

namespace core {

/// Does a flip of this variable need a restart of the machine? By its kind always, or because a person does it in the
/// firmware's menu or with the machine switched off. Such a flip that brought no new boot was not performed.
[[nodiscard]] bool doesFlipRestart(const Variable& variable);
/// Of any of its variables.
[[nodiscard]] bool doesFlipRestart(const Study& study);

/// A visit that began in the boot of an earlier one although its flip needs a restart.
struct MissedFlip {
  std::int64_t visit_id = 0;    ///< whose flip was not performed
  std::int64_t same_as_id = 0;  ///< the earliest visit of that boot
  bool is_same_level = true;    ///< false: the level cannot be what the plan says
};

/// Every flip that was not performed, in order of visits. Visits without a known boot are believed.
[[nodiscard]] std::vector<MissedFlip> missedFlips(const Study& study, std::span<const Visit> visits);

/// The visit that each visit counts as, by id: itself, or the one that it only continues because its flip was not
/// performed. Points into `visits`.
[[nodiscard]] std::map<std::int64_t, const Visit*> performedVisits(const Study& study, std::span<const Visit> visits);

}  // namespace core
