#include "core/planning/candidate_plans.h"

#include <algorithm>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/study/schedule.h"

namespace core {
namespace {

constexpr int kMostPassesPerVisit = 10;
constexpr int kMostRounds = 500;
constexpr int kFewestRestarts = 6;  // what a null study needs to be used
constexpr int kMostRestarts = 40;
constexpr int kMostOneWayPasses = 50;

PlanDesign designOf(Order order) {
  switch (order) {
    case Order::Blocked: return PlanDesign::Passes;
    case Order::ThereAndBack: return PlanDesign::Visits;
    case Order::BalancedShuffle: return PlanDesign::Rounds;
  }
  return PlanDesign::Rounds;
}

// For the exposure any balanced order will do: the drawn one differs little, and is not drawn yet.
double exposureOf(const CandidatePlan& plan, const PlanningOrder& planning) {
  Plan shape;
  shape.order = plan.order;
  shape.passes_per_level = plan.order == Order::Blocked ? plan.size : 2 * plan.passes_per_visit;
  shape.rounds = plan.size;
  shape.passes_per_visit = plan.passes_per_visit;
  for (int round = 0; plan.order == Order::BalancedShuffle && round < plan.size; ++round)
    shape.drawn.push_back(round % 2 == 0 ? Side::Baseline : Side::Changed);
  std::vector<TimedVisit> visits;
  for (const PlannedVisit& visit : visitsOf(shape)) visits.push_back({visit.side, visit.passes});
  return exposureHours(visits, planning.warm_ups, planning.times);
}

double minutesOf(Order order, int size, int passes_per_visit, const PlanningOrder& planning) {
  const int visits = order == Order::Blocked ? 2 : order == Order::ThereAndBack ? 4 : 2 * size;
  return planMinutes(visits, order == Order::Blocked ? size : passes_per_visit, planning.warm_ups, planning.times);
}

// Before a swap for good the baseline is visited again and again: what those restarts differ is what a flip adds. They
// come in pairs, the rounds of a null study.
int restartsFor(int passes, const PlanningOrder& planning) {
  NoiseFloor noise = planning.noise;
  if (noise.null && noise.null->isUsable()) return 0;
  for (int restarts = kFewestRestarts; restarts <= kMostRestarts; restarts += 2) {
    noise.null = NoiseFloor::Null{restarts, passes, 1};
    if (planValue(PlanDesign::Passes, passes, passes, noise, planning.aim).reaches(planning.aim)) return restarts;
  }
  return kFewestRestarts;
}

// The same noise, known by then as well as so many restarts of so many passes make it known.
NoiseFloor noiseAfter(int restarts, int passes, const NoiseFloor& noise) {
  NoiseFloor known = noise;
  if (restarts > 0) known.null = NoiseFloor::Null{restarts, passes, 1};
  return known;
}

std::optional<CandidatePlan> bestOneWay(const PlanningOrder& planning, std::optional<double> within_minutes) {
  std::optional<CandidatePlan> best;
  for (int passes = leastSize(PlanDesign::Passes); passes <= kMostOneWayPasses; ++passes) {
    const CandidatePlan plan = candidateOf(Order::Blocked, passes, passes, planning);
    if (within_minutes ? plan.minutes > *within_minutes : !plan.is_sufficient) continue;
    const bool is_better =
        !best || (within_minutes ? plan.smallest_detectable_percent < best->smallest_detectable_percent
                                 : plan.minutes < best->minutes);
    if (is_better) best = plan;
  }
  return best;
}

// The sufficient plan of one shape, if there is one: its size follows from the aim.
std::optional<CandidatePlan> sufficient(Order order, int passes_per_visit, const PlanningOrder& planning) {
  if (order == Order::ThereAndBack) {
    const CandidatePlan plan = candidateOf(order, 2, passes_per_visit, planning);
    return plan.is_sufficient ? std::optional(plan) : std::nullopt;
  }
  const auto size = smallestSize(designOf(order), passes_per_visit, planning.noise, planning.aim);
  if (!size || (order == Order::BalancedShuffle && *size > kMostRounds)) return std::nullopt;
  const CandidatePlan plan = candidateOf(order, *size, passes_per_visit, planning);
  return plan.is_sufficient ? std::optional(plan) : std::nullopt;
}

}  // namespace

CandidatePlan candidateOf(Order order, int asked_size, int passes_per_visit, const PlanningOrder& planning) {
  const int size = order == Order::ThereAndBack ? 2 : asked_size;  // two visits at each level, always
  CandidatePlan plan;
  plan.order = order;
  plan.size = size;
  plan.passes_per_visit = order == Order::Blocked ? size : passes_per_visit;
  plan.visits = order == Order::Blocked ? 2 : order == Order::ThereAndBack ? 4 : 2 * size;
  if (order == Order::Blocked && planning.is_one_way) plan.null_visits = restartsFor(size, planning);
  plan.minutes = minutesOf(order, size, plan.passes_per_visit, planning) +
                 planMinutes(plan.null_visits, plan.passes_per_visit, planning.warm_ups, planning.times);
  const PlanDesign design = designOf(order);
  const NoiseFloor noise = noiseAfter(plan.null_visits, plan.passes_per_visit, planning.noise);
  plan.value = planValue(design, size, plan.passes_per_visit, noise, planning.aim);
  plan.smallest_detectable_percent =
      smallestDetectablePercent(design, size, plan.passes_per_visit, noise, planning.aim);
  plan.is_sufficient = plan.value.reaches(planning.aim) && !plan.value.is_flip_unseen;
  plan.exposure_hours = exposureOf(plan, planning);
  return plan;
}

std::vector<CandidatePlan> candidatesOf(Order order, int passes_per_visit, const PlanningOrder& planning,
                                        double most_minutes, int most_points) {
  std::vector<CandidatePlan> plans;
  const bool grows_by_passes = order == Order::ThereAndBack;
  const int least = grows_by_passes ? 1 : leastSize(designOf(order));
  // Beyond so many points a curve looks the same; the steps widen with the size.
  for (int n = least; n <= 1000 && static_cast<int>(plans.size()) < most_points; n += std::max(1, n / 12)) {
    const int size = grows_by_passes ? 2 : n;
    const int passes = grows_by_passes ? n : passes_per_visit;
    if (minutesOf(order, size, order == Order::Blocked ? n : passes, planning) > most_minutes) break;
    plans.push_back(candidateOf(order, size, passes, planning));
  }
  return plans;
}

std::optional<CandidatePlan> cheapestPlan(const PlanningOrder& planning) {
  if (planning.is_one_way) return bestOneWay(planning, std::nullopt);
  std::optional<CandidatePlan> best;
  const auto consider = [&](const std::optional<CandidatePlan>& plan) {
    if (plan && (!best || plan->minutes < best->minutes)) best = plan;
  };
  consider(sufficient(Order::Blocked, 1, planning));
  for (int passes = 1; passes <= kMostPassesPerVisit; ++passes) {
    consider(sufficient(Order::ThereAndBack, passes, planning));
    consider(sufficient(Order::BalancedShuffle, passes, planning));
  }
  return best;
}

std::optional<CandidatePlan> bestWithin(double minutes, const PlanningOrder& planning) {
  if (planning.is_one_way) return bestOneWay(planning, minutes);
  std::optional<CandidatePlan> best;
  for (int passes = 1; passes <= kMostPassesPerVisit; ++passes) {
    const double round = minutesOf(Order::BalancedShuffle, 1, passes, planning);
    const int rounds = std::min(kMostRounds, static_cast<int>(minutes / round));
    if (rounds < leastSize(PlanDesign::Rounds)) continue;
    const CandidatePlan plan = candidateOf(Order::BalancedShuffle, rounds, passes, planning);
    if (!best || plan.smallest_detectable_percent < best->smallest_detectable_percent) best = plan;
  }
  return best;
}

std::string reasonFor(const CandidatePlan& plan, const PlanningOrder& planning) {
  std::string what;
  switch (plan.order) {
    case Order::Blocked:
      what = fmt::format("blocked, {} at each level", countText(plan.size, "pass", "passes"));
      if (plan.null_visits > 0)
        what = fmt::format("{} restarts before the swap, then one visit each, {} passes in all of them",
                           plan.null_visits, plan.size);
      break;
    case Order::ThereAndBack:
      what = fmt::format("there and back with {} a visit", countText(plan.passes_per_visit, "pass", "passes"));
      break;
    case Order::BalancedShuffle:
      what = fmt::format("{} rounds of {} {}", plan.size, plan.passes_per_visit,
                         plan.passes_per_visit == 1 ? "pass" : "passes");
      break;
  }
  std::string text =
      fmt::format("{}: {} flips, {}, sees {:.2g} % with {:.0f} % power", what, plan.visits + plan.null_visits,
                  durationText(60 * plan.minutes), plan.smallest_detectable_percent, 100 * planning.aim.power);
  if (plan.value.is_flip_unseen)
    text +=
        fmt::format("; flips are not seen: with {:.2g} % of their own its interval is right in {:.0f} of 100 studies",
                    100 * plan.value.assumed_flip_sd, 100 * plan.value.interval_right);
  return text;
}

Plan withCandidate(Plan plan, const CandidatePlan& candidate, int seed) {
  plan.order = candidate.order;
  switch (candidate.order) {
    case Order::Blocked: plan.passes_per_level = candidate.size; break;
    case Order::ThereAndBack: plan.passes_per_level = 2 * candidate.passes_per_visit; break;
    case Order::BalancedShuffle:
      plan.rounds = candidate.size;
      plan.passes_per_visit = candidate.passes_per_visit;
      plan.seed = seed;
      plan.drawn = drawRounds(plan.rounds, seed);
      break;
  }
  return plan;
}

}  // namespace core
