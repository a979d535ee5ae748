#include "core/study/schedule.h"

#include <fmt/format.h>

namespace core {

std::vector<PlannedVisit> visitsOf(const Plan& plan) {
  if (plan.order == Order::Blocked)
    return {{1, 1, Side::Baseline, plan.passes_per_level}, {2, 1, Side::Changed, plan.passes_per_level}};
  if (plan.order == Order::BalancedShuffle) {
    std::vector<PlannedVisit> visits;
    for (std::size_t round = 0; round < plan.drawn.size(); ++round) {
      const Side first = plan.drawn[round];
      const Side second = first == Side::Baseline ? Side::Changed : Side::Baseline;
      for (const Side side : {first, second})
        visits.push_back(
            {static_cast<int>(visits.size()) + 1, static_cast<int>(round) + 1, side, plan.passes_per_visit});
    }
    return visits;
  }
  const int more = (plan.passes_per_level + 1) / 2;
  const int fewer = plan.passes_per_level - more;
  return {{1, 1, Side::Baseline, more},
          {2, 1, Side::Changed, fewer},
          {3, 2, Side::Changed, more},
          {4, 2, Side::Baseline, fewer}};
}

std::vector<Slot> scheduleOf(const Study& study) {
  std::vector<Slot> slots;
  for (const PlannedVisit& visit : visitsOf(study.plan)) {
    for (std::size_t i = 0; i < study.cases.size(); ++i) {
      // A result that somebody types has no warm-up: whoever ran it warmed it up as they saw fit.
      const int warm_ups = study.cases[i].source == ResultSource::ByHand ? 0 : study.plan.warm_ups;
      for (int n = 1; n <= warm_ups; ++n) slots.push_back({visit.number, visit.round, visit.side, i, true, n});
      for (int n = 1; n <= visit.passes; ++n) slots.push_back({visit.number, visit.round, visit.side, i, false, n});
    }
  }
  return slots;
}

std::string passName(const Slot& slot) {
  return fmt::format("visit {}, {} {}", slot.visit, slot.is_warm_up ? "warm-up" : "pass", slot.number);
}

}  // namespace core
