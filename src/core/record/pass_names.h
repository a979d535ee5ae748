#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "core/record/pass.h"
#include "core/study/schedule.h"

namespace core {

/// What people call the passes on record.
class PassNames {
 public:
  PassNames() = default;
  PassNames(std::vector<Slot> schedule, std::span<const Pass> passes);

  /// By the id of a pass: "visit 3, pass 2"; "a pass" where none on record has it.
  [[nodiscard]] std::string of(std::int64_t id) const;
  /// Several at once, as short as it can be said: "visits 1 to 4, passes 1 and 2 of each; visit 5, pass 2". Visits
  /// stand in their order; an id that none on record has is left out.
  [[nodiscard]] std::string ofSeveral(std::span<const std::int64_t> ids) const;

 private:
  [[nodiscard]] const Slot* slotOf(std::int64_t id) const;

  std::vector<Slot> schedule_;
  std::vector<std::pair<std::int64_t, std::size_t>> slots_;  ///< by id
};

}  // namespace core
