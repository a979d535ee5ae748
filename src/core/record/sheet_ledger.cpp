#include "core/record/sheet_ledger.h"

#include <algorithm>

namespace core {

SheetLedger::SheetLedger(const Study& study, std::span<const Slot> schedule, const Record& record)
    : plan_(study.plan), schedule_(schedule), pending_(schedule.size(), false), attempts_(schedule.size(), 0) {
  // What a visit's repetition begins anew is as if it had never run.
  const auto is_repeated = [&](const Pass& pass) {
    return std::any_of(record.repeated_visits.begin(), record.repeated_visits.end(), [&](const RepeatedVisit& one) {
      return one.visit == schedule[pass.slot].visit && pass.id <= one.last_pass_id;
    });
  };
  std::vector<const Pass*> passes;
  std::vector<int> tries(schedule.size(), 0);
  for (const Pass& pass : record.passes) {
    if (pass.slot >= schedule.size()) continue;
    ++attempts_[pass.slot];
    if (is_repeated(pass)) continue;
    ++tries[pass.slot];
    passes.push_back(&pass);
  }
  if (record.is_stopped_at_look) return;
  std::vector<int> attempts_allowed(schedule.size(), 1 + study.plan.retries);
  std::vector<bool> is_settled(schedule.size(), false);
  for (const Skipped& one : record.skipped)
    if (one.slot < schedule.size()) is_settled[one.slot] = true;
  for (const std::size_t slot : record.repeats)
    if (slot < schedule.size()) ++attempts_allowed[slot];
  for (const Pass* pass : passes)
    if (pass->status == PassStatus::Finished) is_settled[pass->slot] = true;
  for (const Unreachable& one : record.unreachable)  // the sheet goes on with the other levels
    for (std::size_t slot = 0; slot < schedule.size(); ++slot)
      if (schedule[slot].configuration == one.configuration) is_settled[slot] = true;
  for (std::size_t slot = 0; slot < schedule.size(); ++slot)
    pending_[slot] = !is_settled[slot] && tries[slot] < attempts_allowed[slot];
}

std::vector<std::size_t> SheetLedger::pendingOf(std::size_t case_index, ConfigurationId configuration) const {
  std::vector<std::size_t> slots;
  for (std::size_t slot = 0; slot < schedule_.size(); ++slot)
    if (isPendingOf(slot, case_index, configuration)) slots.push_back(slot);
  return slots;
}

bool SheetLedger::awaits(std::size_t case_index, ConfigurationId configuration) const {
  for (std::size_t slot = 0; slot < schedule_.size(); ++slot)
    if (isPendingOf(slot, case_index, configuration)) return true;
  return false;
}

PartsDone SheetLedger::partsDone() const {
  PartsDone done{!pending_.empty(), !pending_.empty()};
  for (std::size_t slot = 0; slot < schedule_.size(); ++slot)
    if (pending_[slot])
      (plan_.isOfSecondPart(schedule_[slot].round) ? done.is_second_done : done.is_first_done) = false;
  return done;
}

std::optional<std::size_t> SheetLedger::next() const {
  const auto next = std::find(pending_.begin(), pending_.end(), true);
  return next == pending_.end() ? std::nullopt : std::optional(static_cast<std::size_t>(next - pending_.begin()));
}

}  // namespace core
