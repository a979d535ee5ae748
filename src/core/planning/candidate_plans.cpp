#include "core/planning/candidate_plans.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <span>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/study/look_confidences.h"
#include "core/study/schedule.h"
#include "core/values/percent.h"

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

// Of one of the cases.
NoiseFloor noiseOfOne(const PlanningOrder& planning) {
  NoiseFloor noise = planning.noise;
  noise.pass_sd *= std::sqrt(planning.pass_share);
  noise.flip_sd *= std::sqrt(planning.flip_share);
  return noise;
}

// Of the headline: a lucky flip moves all cases at once, a lucky pass only its own.
NoiseFloor noiseOf(const PlanningOrder& planning) {
  NoiseFloor noise = noiseOfOne(planning);
  noise.pass_sd /= std::sqrt(std::max(1, planning.suite_cases));
  return noise;
}

RoundOrder forwardOrBack(int round) {
  const RoundOrder forward{ConfigurationId::Baseline, ConfigurationId::Changed};
  return round % 2 == 0 ? forward : RoundOrder(forward.rbegin(), forward.rend());
}

// For minutes and exposure any fair order will do: the drawn one differs little, and is not drawn yet.
std::vector<RoundOrder> roundsOf(int rounds, const PlanningOrder& planning) {
  if (!planning.blocks.empty()) return drawBlockedRounds(planning.blocks, rounds, 1);
  if (planning.configurations != 2) return drawRounds(planning.configurations, rounds, 1);
  std::vector<RoundOrder> alternating;
  for (int round = 0; round < rounds; ++round) alternating.push_back(forwardOrBack(round));
  return alternating;
}

// The visits of a plan of this size.
std::vector<PlannedVisit> visitsFor(Order order, int size, int passes_per_visit, const PlanningOrder& planning) {
  Plan shape;
  shape.order = order;
  shape.passes_per_level = order == Order::Blocked ? size : 2 * passes_per_visit;
  shape.rounds = size;
  shape.passes_per_visit = passes_per_visit;
  if (order == Order::BalancedShuffle) shape.drawn = roundsOf(size, planning);
  return visitsOf(shape, planning.configurations);
}

// With flips that take different times, what one takes on the average.
BenchTimes timesOf(std::span<const PlannedVisit> visits, const PlanningOrder& planning) {
  BenchTimes times = planning.times;
  if (planning.flip_minutes.empty()) return times;
  double minutes = 0;
  for (std::size_t i = 0; i < visits.size(); ++i) {
    const std::size_t from = placeOf(visits[i > 0 ? i - 1 : 0].configuration);  // the first needs a flip of its own
    minutes += planning.flip_minutes[from][placeOf(visits[i].configuration)];
  }
  times.flip = minutes / static_cast<double>(visits.size());
  return times;
}

double exposureOf(std::span<const PlannedVisit> visits, const PlanningOrder& planning) {
  std::vector<TimedVisit> timed;
  for (const PlannedVisit& visit : visits) timed.push_back({visit.configuration, visit.passes});
  return exposureHours(timed, configurationAt(0), configurationAt(planning.configurations - 1), planning.warm_ups,
                       timesOf(visits, planning));
}

int visitsIn(Order order, int size, const PlanningOrder& planning) {
  const auto configurations = static_cast<int>(planning.configurations);
  return configurations * (order == Order::Blocked ? 1 : order == Order::ThereAndBack ? 2 : size);
}

double minutesOf(Order order, int size, int passes_per_visit, const PlanningOrder& planning) {
  // All flips take the same for most: then nothing needs to be laid out.
  const BenchTimes times = planning.flip_minutes.empty()
                               ? planning.times
                               : timesOf(visitsFor(order, size, passes_per_visit, planning), planning);
  return planMinutes(visitsIn(order, size, planning), order == Order::Blocked ? size : passes_per_visit,
                     planning.warm_ups, times);
}

// Before a swap for good the baseline is visited again and again: what those restarts differ is what a flip adds. They
// come in pairs, the rounds of a null study.
int restartsFor(int passes, const PlanningOrder& planning) {
  NoiseFloor noise = noiseOf(planning);
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
        !best || (within_minutes ? plan.smallest_detectable < best->smallest_detectable : plan.minutes < best->minutes);
    if (is_better) best = plan;
  }
  return best;
}

// The sufficient plan of one shape that takes less than `below` minutes, if there is one: its size follows from the
// aim. What it buys is worked out for no other.
std::optional<CandidatePlan> sufficient(Order order, int passes_per_visit, const PlanningOrder& planning,
                                        double below) {
  const auto size = order == Order::ThereAndBack
                        ? std::optional(2)
                        : smallestSize(designOf(order), passes_per_visit, noiseOf(planning), planning.aim);
  if (!size || (order == Order::BalancedShuffle && *size > kMostRounds)) return std::nullopt;
  if (minutesOf(order, *size, passes_per_visit, planning) >= below) return std::nullopt;
  const CandidatePlan plan = candidateOf(order, *size, passes_per_visit, planning);
  return plan.is_sufficient ? std::optional(plan) : std::nullopt;
}

// A main effect is a mean over the other variable's levels, of as many visits; of the flips of the variable that visits
// are grouped by a whole block shares one. An interaction is a difference of two differences.
void addShares(const Study& study, PlanningOrder& planning) {
  if (study.shape != Shape::Crossed || study.plan.planned_for == PlannedFor::Difference) return;
  if (study.plan.planned_for == PlannedFor::Interaction) {
    planning.pass_share = planning.flip_share = 2;
    return;
  }
  const std::array levels{study.variables[0].levels.size(), study.variables[1].levels.size()};
  const std::size_t other = planning.blocks.empty()                            ? std::min(levels[0], levels[1])
                            : study.variables[0].name == study.plan.grouped_by ? levels[1]
                                                                               : levels[0];
  planning.pass_share = 1.0 / static_cast<double>(other);
  planning.flip_share = planning.blocks.empty() ? planning.pass_share : 1;
}

// What a plan is made for: the cases in percent that should respond, as a suite where there are several; where there is
// none, those in the unit of the first, each of them.
void takeCases(const Study& study, PlanningOrder& planning) {
  const auto responds = [](const Case& one, Scale scale) { return one.shouldRespond() && one.metric.scale == scale; };
  const auto in_percent = std::count_if(study.cases.begin(), study.cases.end(),
                                        [&](const Case& one) { return responds(one, Scale::Ratio); });
  const auto first = std::find_if(study.cases.begin(), study.cases.end(),
                                  [&](const Case& one) { return responds(one, Scale::Difference); });
  planning.suite_cases = static_cast<int>(std::max<std::ptrdiff_t>(1, in_percent));
  if (first == study.cases.end()) return;
  if (in_percent > 0) {
    planning.unplanned = fmt::format("{} in {}", first->metric.name, first->metric.unit);
    return;
  }
  planning.aim.unit = UnitThreshold{first->metric.threshold, first->metric.unit};
  planning.aim.cases = static_cast<int>(std::count_if(study.cases.begin(), study.cases.end(), [&](const Case& one) {
    return responds(one, Scale::Difference) && one.metric.unit == first->metric.unit;
  }));
  planning.noise = {study.plan.guess.pass_spread_units, study.plan.guess.flip_spread_units, {}};
}

// Of how many degrees of freedom a round tells, in those of a contrast alone; whatever the order is now.
double sharedDf(const Study& study) {
  return study.plan.spread == Spread::Shared && study.configurationCount() > 2 ? 2 : 1;
}

// Of each case of a suite, whose claim is adjusted for their number.
PlanAim aimOfEach(const PlanningOrder& planning) {
  PlanAim one = planning.aim;
  one.cases = planning.suite_cases;
  return one;
}

NoiseFloor noiseOfEach(const CandidatePlan& plan, const PlanningOrder& planning) {
  return noiseAfter(plan.null_visits, plan.passes_per_visit, noiseOfOne(planning));
}

}  // namespace

PlanningOrder planningOf(const Study& study) {
  constexpr double kPower = 0.9;
  const PlanningGuess& guess = study.plan.guess;
  PlanningOrder planning{{lnOfPercent(guess.pass_spread_percent), lnOfPercent(guess.flip_spread_percent), {}},
                         {study.notice_threshold_percent, endConfidence(study), kPower},
                         {flipMinutes(study, study.variable()), 0, guess.visit_pass_minutes, 0},
                         study.plan.warm_ups,
                         study.plan.is_one_way,
                         study.configurationCount()};
  planning.blocks = blocksOf(study, study.plan.grouped_by);
  if (planning.blocks.size() < 2) planning.blocks.clear();
  addShares(study, planning);
  takeCases(study, planning);
  planning.noise.df_share = sharedDf(study);
  if (study.variables.size() == 1) return planning;
  const std::vector<ConfigurationId> all = configurationsOf(study);
  for (const ConfigurationId from : all) {
    auto& row = planning.flip_minutes.emplace_back();
    for (const ConfigurationId to : all) row.push_back(flipMinutes(study, from, to));
  }
  return planning;
}

double smallestOfEach(const CandidatePlan& plan, const PlanningOrder& planning) {
  return smallestDetectable(designOf(plan.order), plan.size, plan.passes_per_visit, noiseOfEach(plan, planning),
                            aimOfEach(planning));
}

CandidatePlan candidateOf(Order order, int asked_size, int passes_per_visit, const PlanningOrder& planning) {
  const int size = order == Order::ThereAndBack ? 2 : asked_size;  // two visits at each level, always
  CandidatePlan plan;
  plan.order = order;
  plan.size = size;
  plan.passes_per_visit = order == Order::Blocked ? size : passes_per_visit;
  plan.configurations = planning.configurations;
  plan.blocks = planning.blocks;
  plan.visits = visitsIn(order, size, planning);
  if (order == Order::Blocked && planning.is_one_way) plan.null_visits = restartsFor(size, planning);
  plan.minutes = minutesOf(order, size, plan.passes_per_visit, planning) +
                 planMinutes(plan.null_visits, plan.passes_per_visit, planning.warm_ups, planning.times);
  const PlanDesign design = designOf(order);
  const NoiseFloor noise = noiseAfter(plan.null_visits, plan.passes_per_visit, noiseOf(planning));
  plan.value = planValue(design, size, plan.passes_per_visit, noise, planning.aim);
  plan.smallest_detectable = smallestDetectable(design, size, plan.passes_per_visit, noise, planning.aim);
  if (planning.suite_cases > 1)
    plan.each = planValue(design, size, plan.passes_per_visit, noiseOfEach(plan, planning), aimOfEach(planning));
  plan.is_sufficient = plan.value.reaches(planning.aim) && !plan.value.is_flip_unseen && !plan.hasNoInterval();
  plan.exposure_hours = exposureOf(visitsFor(order, size, plan.passes_per_visit, planning), planning);
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
  const auto consider = [&](Order order, int passes) {
    constexpr double kForever = std::numeric_limits<double>::infinity();
    if (const auto plan = sufficient(order, passes, planning, best ? best->minutes : kForever)) best = plan;
  };
  consider(Order::Blocked, 1);
  for (int passes = 1; passes <= kMostPassesPerVisit; ++passes) {
    consider(Order::ThereAndBack, passes);
    consider(Order::BalancedShuffle, passes);
  }
  return best;
}

std::optional<CandidatePlan> bestWithin(double minutes, const PlanningOrder& planning) {
  if (planning.is_one_way) return bestOneWay(planning, minutes);
  std::optional<CandidatePlan> best;
  for (int passes = 1; passes <= kMostPassesPerVisit; ++passes) {
    const double round = minutesOf(Order::BalancedShuffle, 1, passes, planning);
    const int rounds = static_cast<int>(std::min<double>(kMostRounds, round > 0 ? minutes / round : kMostRounds));
    if (rounds < leastSize(PlanDesign::Rounds)) continue;
    const CandidatePlan plan = candidateOf(Order::BalancedShuffle, rounds, passes, planning);
    if (!best || plan.smallest_detectable < best->smallest_detectable) best = plan;
  }
  return best;
}

std::optional<std::string> spreadOffer(const Study& study, const PlanningOrder& planning) {
  if (study.configurationCount() < 3 || study.plan.order != Order::BalancedShuffle) return std::nullopt;
  const auto cheapest = [&](double df_share) {
    PlanningOrder other = planning;
    other.noise.df_share = df_share;
    std::optional<CandidatePlan> best;
    for (int passes = 1; passes <= kMostPassesPerVisit; ++passes)
      if (const auto plan = sufficient(Order::BalancedShuffle, passes, other, best ? best->minutes : INFINITY))
        best = plan;
    return best;
  };
  const auto own = cheapest(1);
  const auto shared = cheapest(2);
  if (!own || !shared || shared->minutes >= own->minutes) return std::nullopt;
  return fmt::format("The same certainty takes {} with the spread of all configurations, {} with each comparison's own",
                     durationText(60 * shared->minutes), durationText(60 * own->minutes));
}

Plan withCandidate(Plan plan, const CandidatePlan& candidate, int seed) {
  plan.order = candidate.order;
  if (plan.order != Order::BalancedShuffle) plan.looks.clear();  // there is no round to look after
  switch (candidate.order) {
    case Order::Blocked: plan.passes_per_level = candidate.size; break;
    case Order::ThereAndBack: plan.passes_per_level = 2 * candidate.passes_per_visit; break;
    case Order::BalancedShuffle:
      plan.rounds = candidate.size;
      plan.passes_per_visit = candidate.passes_per_visit;
      plan.seed = seed;
      plan.drawn = candidate.blocks.empty() ? drawRounds(candidate.configurations, plan.rounds, seed)
                                            : drawBlockedRounds(candidate.blocks, plan.rounds, seed);
      break;
  }
  return plan;
}

}  // namespace core
