#include "core/record/looks.h"

#include <algorithm>

#include "core/record/sheet_ledger.h"
#include "core/study/look_confidences.h"

namespace core {
namespace {

// The first round of which something is still to come; of a study that was stopped the one that would have come next.
int firstRoundToCome(const Study& study, const Record& record) {
  const std::vector<Slot> schedule = scheduleOf(study);
  const SheetLedger ledger(study, schedule, record);
  int last_run = 0;
  for (const Pass& pass : record.passes)
    if (pass.slot < schedule.size()) last_run = std::max(last_run, schedule[pass.slot].round);
  int first = record.is_stopped_at_look ? last_run + 1 : study.plan.rounds + 1;
  for (std::size_t i = 0; i < schedule.size(); ++i)
    if (ledger.isPending(i)) first = std::min(first, schedule[i].round);
  return first;
}

// How many of the planned looks have all of their rounds.
std::size_t looksPassed(const Study& study, const Record& record) {
  if (study.plan.looks.empty() || record.passes.empty()) return 0;
  const int to_come = firstRoundToCome(study, record);
  return static_cast<std::size_t>(
      std::count_if(study.plan.looks.begin(), study.plan.looks.end(), [&](int look) { return look < to_come; }));
}

}  // namespace

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

bool wasLookTaken(const Study& study, const Record& record) { return looksPassed(study, record) > 0; }

double intervalConfidence(const Study& study, const Record& record) {
  const std::vector<double> each = lookConfidences(study);
  if (each.size() < 2) return each.front();
  const std::size_t passed = std::clamp<std::size_t>(looksPassed(study, record), 1, each.size());
  return each[passed - 1];
}

Study withLooksPaid(const Study& study, const Record& record) {
  Study paid = study;
  paid.confidence = intervalConfidence(study, record);
  paid.plan.looks.clear();
  return paid;
}

bool isSealed(const Study& study, const Record& record) {
  if (!study.plan.is_sealed || !record.opened_early.empty() || record.passes.empty()) return false;
  const std::vector<Slot> schedule = scheduleOf(study);
  return !SheetLedger(study, schedule, record).partsDone().is_first_done && !lookReached(study, record);
}

bool isSecondPartSealed(const Study& study, const Record& record) {
  if (!study.plan.is_sealed || !record.opened_early.empty() || study.plan.second_part_rounds == 0) return false;
  const std::vector<Slot> schedule = scheduleOf(study);
  return !SheetLedger(study, schedule, record).partsDone().is_second_done;
}

bool isSealed(const Study& study, const Record& record, const Case& one) {
  return isSealed(study, record) || (one.is_second_part && isSecondPartSealed(study, record));
}

}  // namespace core
