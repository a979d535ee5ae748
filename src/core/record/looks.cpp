#include "core/record/looks.h"

#include <algorithm>

#include "core/record/sheet_ledger.h"

namespace core {

std::optional<int> lookReached(const Study& study, const Record& record) {
  if (study.plan.looks.empty() || record.passes.empty()) return std::nullopt;
  const std::vector<Slot> schedule = scheduleOf(study);
  const std::size_t next = SheetLedger(study, schedule, record).next().value_or(schedule.size());
  const bool is_ahead =
      std::any_of(record.passes.begin(), record.passes.end(), [&](const Pass& pass) { return pass.slot >= next; });
  if (is_ahead) return std::nullopt;  // what lies behind the next slot was seen by nobody at the look
  for (const int look : study.plan.looks) {
    const auto end =
        std::find_if(schedule.begin(), schedule.end(), [&](const Slot& slot) { return slot.round > look; });
    if (static_cast<std::size_t>(end - schedule.begin()) == next) return look;
  }
  return std::nullopt;
}

bool followsLook(const Study& study, std::span<const Slot> schedule, std::size_t slot) {
  if (slot == 0 || slot >= schedule.size() || schedule[slot].round == schedule[slot - 1].round) return false;
  return std::find(study.plan.looks.begin(), study.plan.looks.end(), schedule[slot - 1].round) !=
         study.plan.looks.end();
}

bool wasLookTaken(const Study& study, const Record& record) {
  const std::vector<Slot> schedule = scheduleOf(study);
  const SheetLedger ledger(study, schedule, record);
  return std::any_of(study.plan.looks.begin(), study.plan.looks.end(), [&](int look) {
    for (std::size_t i = 0; i < schedule.size(); ++i)
      if (schedule[i].round <= look && ledger.isPending(i)) return false;
    return !record.passes.empty();
  });
}

bool isSealed(const Study& study, const Record& record) {
  if (!study.plan.is_sealed || !record.opened_early.empty() || record.passes.empty()) return false;
  const std::vector<Slot> schedule = scheduleOf(study);
  return !SheetLedger(study, schedule, record).isComplete() && !lookReached(study, record);
}

}  // namespace core
