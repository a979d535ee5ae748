#include "core/study/schedule.h"

#include <algorithm>

#include <fmt/format.h>

namespace core {
namespace {

class Visits {
 public:
  void add(int round, ConfigurationId configuration, int passes) {
    list_.push_back({static_cast<int>(list_.size()) + 1, round, configuration, passes});
  }
  std::vector<PlannedVisit> take() { return std::move(list_); }

 private:
  std::vector<PlannedVisit> list_;
};

// An odd pass goes to the first leg at every other configuration, and to the second at those between.
std::vector<PlannedVisit> thereAndBack(const Plan& plan, std::size_t configurations) {
  const int more = (plan.passes_per_level + 1) / 2;
  const int fewer = plan.passes_per_level - more;
  Visits visits;
  for (std::size_t i = 0; i < configurations; ++i) visits.add(1, configurationAt(i), i % 2 == 0 ? more : fewer);
  for (std::size_t i = configurations; i-- > 0;) visits.add(2, configurationAt(i), i % 2 == 0 ? fewer : more);
  return visits.take();
}

}  // namespace

std::vector<PlannedVisit> visitsOf(const Plan& plan, std::size_t configurations) {
  if (plan.order == Order::ThereAndBack) return thereAndBack(plan, configurations);
  Visits visits;
  if (plan.order == Order::Blocked)
    for (std::size_t i = 0; i < configurations; ++i) visits.add(1, configurationAt(i), plan.passes_per_level);
  else
    for (std::size_t round = 0; round < plan.drawn.size(); ++round)
      for (const ConfigurationId one : plan.drawn[round])
        visits.add(static_cast<int>(round) + 1, one, plan.passes_per_visit);
  return visits.take();
}

std::vector<PlannedVisit> visitsOf(const Study& study) { return visitsOf(study.plan, study.configurationCount()); }

std::vector<Slot> scheduleOf(const Study& study) {
  std::vector<Slot> slots;
  for (const PlannedVisit& visit : visitsOf(study)) {
    for (std::size_t i = 0; i < study.cases.size(); ++i) {
      if (study.cases[i].is_second_part != study.plan.isOfSecondPart(visit.round)) continue;
      // A result that somebody types has no warm-up: whoever ran it warmed it up as they saw fit.
      const int warm_ups = study.cases[i].source == ResultSource::ByHand ? 0 : study.plan.warm_ups;
      for (int n = 1; n <= warm_ups; ++n) slots.push_back({visit.number, visit.round, visit.configuration, i, true, n});
      for (int n = 1; n <= visit.passes; ++n)
        slots.push_back({visit.number, visit.round, visit.configuration, i, false, n});
    }
  }
  return slots;
}

std::string passName(const Slot& slot) {
  return fmt::format("visit {}, {} {}", slot.visit, slot.is_warm_up ? "warm-up" : "pass", slot.number);
}

}  // namespace core
