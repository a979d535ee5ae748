#include "core/looks.h"

#include <algorithm>
#include <map>
#include <set>

#include "core/schedule.h"

namespace core {

std::optional<int> lookReached(const Study& study, const Record& record) {
  if (study.plan.looks.empty()) return std::nullopt;
  std::set<std::size_t> settled;
  std::map<std::size_t, int> failed_attempts;
  for (const Pass& pass : record.passes) {
    if (pass.status == PassStatus::Finished)
      settled.insert(pass.slot);
    else if (++failed_attempts[pass.slot] > study.plan.retries)
      settled.insert(pass.slot);  // nothing more will be tried
  }
  for (const Skipped& one : record.skipped) settled.insert(one.slot);
  const std::vector<Slot> schedule = scheduleOf(study);
  for (const int look : study.plan.looks) {
    const auto end =
        std::find_if(schedule.begin(), schedule.end(), [&](const Slot& slot) { return slot.round > look; });
    const auto slots = static_cast<std::size_t>(end - schedule.begin());
    const bool is_complete = settled.size() == slots && (settled.empty() || *settled.rbegin() == slots - 1);
    if (is_complete && slots > 0) return look;
  }
  return std::nullopt;
}

bool followsLook(const Study& study, std::span<const Slot> schedule, std::size_t slot) {
  if (slot == 0 || slot >= schedule.size() || schedule[slot].round == schedule[slot - 1].round) return false;
  return std::find(study.plan.looks.begin(), study.plan.looks.end(), schedule[slot - 1].round) !=
         study.plan.looks.end();
}

}  // namespace core
