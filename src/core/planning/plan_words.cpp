// What a plan costs and buys, in words.
#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/planning/candidate_plans.h"

namespace core {

std::optional<std::string> groupingOffer(const Study& study, const std::string& variable,
                                         const PlanningOrder& planning) {
  if (study.plan.order != Order::BalancedShuffle) return std::nullopt;
  const auto planned = [&](const std::string& grouped_by) {
    Study other = study;
    other.plan.grouped_by = grouped_by;
    other.plan.planned_for = PlannedFor::MainEffect;
    PlanningOrder order = planningOf(other);
    order.noise = planning.noise;
    return candidateOf(Order::BalancedShuffle, study.plan.rounds, study.plan.passes_per_visit, order);
  };
  if (blocksOf(study, variable).size() < 2) return std::nullopt;
  const CandidatePlan grouped = planned(variable);
  const CandidatePlan free = planned("");
  return fmt::format("Grouped by {}: {} instead of {}; its main effect is detected from {} instead of {}", variable,
                     durationText(60 * grouped.minutes), durationText(60 * free.minutes),
                     detectableText(grouped, planning), detectableText(free, planning));
}

std::string costText(const CandidatePlan& plan) {
  std::string what;
  switch (plan.order) {
    case Order::Blocked:
      what = fmt::format("blocked, {} at each level", countText(plan.size, "pass", "passes"));
      if (plan.null_visits > 0)
        what = fmt::format("{} restarts before the swap, then blocked, {} passes in each visit", plan.null_visits,
                           plan.size);
      break;
    case Order::ThereAndBack:
      what = fmt::format("there and back with {} a visit", countText(plan.passes_per_visit, "pass", "passes"));
      break;
    case Order::BalancedShuffle:
      what = fmt::format("{} rounds of {} {}", plan.size, plan.passes_per_visit,
                         plan.passes_per_visit == 1 ? "pass" : "passes");
      break;
  }
  return fmt::format("{}: {} flips, {}", what, plan.visits + plan.null_visits, durationText(60 * plan.minutes));
}

std::string detectableText(const CandidatePlan& plan, const PlanningOrder& planning) {
  return fmt::format("{:.2g} {}", plan.smallest_detectable, planning.aim.unit ? planning.aim.unit->unit : "%");
}

static std::string thresholdOf(const PlanningOrder& planning) {
  const auto& unit = planning.aim.unit;
  return unit ? fmt::format("{:g} {}", unit->threshold, unit->unit)
              : fmt::format("{:.3g} %", planning.aim.threshold_percent);
}

std::string reasonFor(const CandidatePlan& plan, const PlanningOrder& planning) {
  if (plan.hasNoInterval()) return costText(plan) + "; too few passes for an interval, so it detects nothing";
  if (plan.smallest_detectable <= 0)
    return costText(plan) + "; how much passes and flips scatter is not known, so neither is what it detects";
  std::string text =
      fmt::format("{}, detects {}{}{} in {:.0f} of 100 studies", costText(plan), detectableText(plan, planning),
                  planning.pass_share > 1   ? " of interaction"
                  : planning.pass_share < 1 ? " of a main effect"
                                            : "",
                  planning.suite_cases > 1 ? " of the suite"
                  : planning.aim.cases > 1 ? fmt::format(" in each of {} cases", planning.aim.cases)
                                           : "",
                  100 * planning.aim.power);
  if (plan.each)
    text += fmt::format(", and {} in each of {} cases in {:.0f}", thresholdOf(planning), planning.suite_cases,
                        100 * plan.each->power);
  if (!planning.unplanned.empty()) text += fmt::format("; of {} it says nothing", planning.unplanned);
  if (plan.value.is_flip_unseen)
    text +=
        fmt::format("; flips are not seen: if each adds {:.2g} % (sd), its interval is right in {:.0f} of 100 studies",
                    100 * plan.value.assumed_flip_sd, 100 * plan.value.interval_right);
  return text;
}

const char* noPlanText(const PlanningOrder& planning, bool has_limit) {
  if (planning.is_one_way)
    return has_limit ? "No swap for good with the restarts before it fits into that time."
                     : "No swap for good shows so small a change, with up to 40 restarts before it.";
  return has_limit ? "Not even three rounds fit into that time."
                   : "No plan of up to 500 rounds detects so small a change.";
}

}  // namespace core
