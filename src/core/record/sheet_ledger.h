#pragma once

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

#include "core/record/record.h"
#include "core/study/schedule.h"

namespace core {

/// Whether nothing of each part of a plan is still to come. What was not planned is not to come either, but for a study
/// without any pass to run: that one is not complete.
struct PartsDone {
  bool is_first_done = false;
  bool is_second_done = false;

  [[nodiscard]] bool isDone(const Case& one) const { return one.is_second_part ? is_second_done : is_first_done; }
};

/// Which passes of the plan are still to come: the one rule that the sheet, its looks, the seal, the findings and the
/// report go by. A slot is settled once a pass of it is finished, once a person left it out, or once it failed as often
/// as the plan's retries, and what people granted on top, allow.
class SheetLedger {
 public:
  /// `study` and `schedule` must outlive it.
  SheetLedger(const Study& study, std::span<const Slot> schedule, const Record& record);

  [[nodiscard]] bool isPending(std::size_t slot) const { return pending_[slot]; }
  [[nodiscard]] const std::vector<bool>& pending() const { return pending_; }
  /// The passes of a case at a configuration that are to come and would count, in run order. A warm-up would not.
  [[nodiscard]] std::vector<std::size_t> pendingOf(std::size_t case_index, ConfigurationId configuration) const;
  /// Is there any?
  [[nodiscard]] bool awaits(std::size_t case_index, ConfigurationId configuration) const;
  /// How often a pass of a slot was tried so far.
  [[nodiscard]] int attemptsOf(std::size_t slot) const { return attempts_[slot]; }
  /// The slot that comes next; nothing when every slot is settled.
  [[nodiscard]] std::optional<std::size_t> next() const;
  /// Nothing is still to come, and something was planned.
  [[nodiscard]] bool isComplete() const { return !pending_.empty() && !next(); }
  /// The same, part by part.
  [[nodiscard]] PartsDone partsDone() const;

 private:
  [[nodiscard]] bool isPendingOf(std::size_t slot, std::size_t case_index, ConfigurationId configuration) const {
    return pending_[slot] && schedule_[slot].counts(case_index, configuration);
  }

  const Plan& plan_;
  std::span<const Slot> schedule_;
  std::vector<bool> pending_;
  std::vector<int> attempts_;
};

}  // namespace core
