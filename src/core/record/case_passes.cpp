#include "core/record/case_passes.h"

#include "core/record/performed_flips.h"
#include "core/values/resolution.h"

namespace core {

std::vector<std::vector<CountedPass>> countedByCase(const Study& study, std::span<const Slot> schedule,
                                                    std::span<const Visit> visits, std::span<const Pass> passes,
                                                    ExcludedPasses excluded) {
  const auto visit_by_id = performedVisits(study, visits);
  const std::size_t cases = study.cases.size();
  std::vector<bool> taken(schedule.size(), false);
  std::vector<std::vector<CountedPass>> counted(cases);
  for (const Pass& pass : passes) {
    if (pass.status != PassStatus::Finished || !pass.value || pass.slot >= schedule.size()) continue;
    if (excluded == ExcludedPasses::StayOut && !pass.excluded_because.empty()) continue;
    const Slot& slot = schedule[pass.slot];
    const auto visit = visit_by_id.find(pass.visit_id);
    if (slot.is_warm_up || slot.case_index >= cases || visit == visit_by_id.end() || taken[pass.slot]) continue;
    taken[pass.slot] = true;
    counted[slot.case_index].push_back({&pass, visit->second, !study.plan.isSizedBySpread(visit->second->round)});
  }
  return counted;
}

/// What estimators take for a visit that was not interleaved with others.
static constexpr int kNoRound = 0;

std::vector<VisitValues> visitValues(std::span<const CountedPass> passes,
                                     const std::function<std::optional<double>(const Pass&)>& value_of, Digits digits) {
  std::map<std::int64_t, VisitValues> by_visit;
  std::vector<double> printed;  // what is worked out of frames has all its digits, and a count of them is exact
  for (const CountedPass& counted : passes) {
    const Visit& visit = *counted.visit;
    const auto number = static_cast<int>(visit.id);
    VisitValues& values =
        by_visit
            .try_emplace(visit.id,
                         VisitValues{visit.configuration, number, visit.is_taken ? kNoRound : visit.round, {}})
            .first->second;
    values.tells_spread = counted.tells_spread;
    const auto value = value_of(*counted.pass);
    if (value) values.values.push_back(*value);
    if (value && (digits == Digits::Written || !counted.pass->frames)) printed.push_back(*value);
    if (counted.pass->typed && digits == Digits::AsTheHeadline)
      values.resolution = std::max(values.resolution, counted.pass->typed->resolution);
  }
  const double step = resolutionOf(printed);  // whoever rounded them: a person, or the program that printed them
  std::vector<VisitValues> result;
  for (auto& [id, values] : by_visit) {
    values.resolution = std::max(values.resolution, step);
    result.push_back(std::move(values));
  }
  return result;
}

}  // namespace core
