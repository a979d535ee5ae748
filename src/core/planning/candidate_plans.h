#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/planning/planner.h"
#include "core/study/study.h"

namespace core {

/// One way to answer the question: its cost, and what it buys.
struct CandidatePlan {
  Order order = Order::BalancedShuffle;
  int size = 0;              ///< passes a level (Blocked), or rounds, or 2 (ThereAndBack)
  int passes_per_visit = 1;  ///< of each case
  int visits = 2;
  int null_visits = 0;  ///< restarts before a swap that nobody undoes, each with as many passes: a null study
  double minutes = 0;   ///< with those
  double smallest_detectable = 0;  ///< percent, or in the unit of the aim
  double exposure_hours = 0;       ///< of the last configuration against the first
  std::size_t configurations = 2;
  std::vector<RoundOrder> blocks = {};  ///< of the planning that it comes from
  PlanValue value;                      ///< of the headline: of the suite, where several cases are summed up
  std::optional<PlanValue> each = {};   ///< then of each of its cases, adjusted for their number
  bool is_sufficient = false;           ///< reaches the aim, and its flips are seen or known
  /// One pass at a level, and nothing that it could be compared with: findings give no interval then.
  [[nodiscard]] bool hasNoInterval() const { return order == Order::Blocked && size < 2; }
};

/// What planning rests on.
struct PlanningOrder {
  NoiseFloor noise;
  PlanAim aim;
  BenchTimes times;
  int warm_ups = 1;
  bool is_one_way = false;         ///< nobody undoes the flip: one visit a level, and restarts before it
  std::size_t configurations = 2;  ///< each round, or leg, visits all of them
  /// Minutes of a flip from one configuration to another; to itself, of one of its own. Empty: each takes times.flip.
  std::vector<std::vector<double>> flip_minutes = {};
  std::vector<RoundOrder> blocks = {};  ///< that follow each other within a round; empty: every order
  /// How much of the noise of passes, and of flips, the contrast that the value is of has: variances by those of one
  /// configuration against another.
  double pass_share = 1;
  double flip_share = 1;
  int suite_cases = 1;         ///< that the headline sums up: their passes average out, their flips are shared
  std::string unplanned = {};  ///< cases that the plan says nothing of, since they are in no percent; may be empty
  bool operator==(const PlanningOrder&) const = default;
};

/// The planning of a study's plan, but for the noise: what its flips take, and what it is to be large enough for.
/// Source  the weights of the contrast; where visits are grouped, the flips of the variable that they are grouped by
/// are shared by a whole block
[[nodiscard]] PlanningOrder planningOf(const Study& study);

/// One plan. Shapes  `size`: passes a level, or rounds; of no account for ThereAndBack, which has four visits
[[nodiscard]] CandidatePlan candidateOf(Order order, int size, int passes_per_visit, const PlanningOrder& planning);

/// What a plan detects in each case of a suite, adjusted for their number; in the unit of the aim.
[[nodiscard]] double smallestOfEach(const CandidatePlan& plan, const PlanningOrder& planning);

/// One order with growing sizes, for a curve of what each hour buys; up to `most_minutes` and `most_points`.
/// Balanced shuffle with `passes_per_visit`; the other two grow by passes.
[[nodiscard]] std::vector<CandidatePlan> candidatesOf(Order order, int passes_per_visit, const PlanningOrder& planning,
                                                      double most_minutes, int most_points = 32);

/// The cheapest plan that is sufficient, whatever its order and passes a visit; nothing where none of up to 1000 passes
/// or 500 rounds is. Where nobody undoes the flip: one visit a level after the fewest restarts that will do. At least 5
/// rounds, unless 3 or 4 reach the aim.
[[nodiscard]] std::optional<CandidatePlan> cheapestPlan(const PlanningOrder& planning);

/// The plan that sees the smallest change within a time budget; nothing where not even the smallest fits.
[[nodiscard]] std::optional<CandidatePlan> bestWithin(double minutes, const PlanningOrder& planning);

/// What grouping the visits of crossed variables by one of them would save, and what it would cost in certainty of that
/// variable's main effect; nothing where they cannot be grouped so. `planning` tells the noise.
[[nodiscard]] std::optional<std::string> groupingOffer(const Study& study, const std::string& variable,
                                                       const PlanningOrder& planning);

/// What a plan costs: "5 rounds of 2 passes: 10 flips, 1 h 50 min".
[[nodiscard]] std::string costText(const CandidatePlan& plan);

/// "1.2 %", "0.8 dB": what a plan detects.
[[nodiscard]] std::string detectableText(const CandidatePlan& plan, const PlanningOrder& planning);

/// What sharing the spread of all configurations saves for the same certainty, or saves already; nothing where there is
/// nothing to share, or no plan is enough.
[[nodiscard]] std::optional<std::string> spreadOffer(const Study& study, const PlanningOrder& planning);

/// What a plan costs and buys, and why it and no other, in one sentence.
[[nodiscard]] std::string reasonFor(const CandidatePlan& plan, const PlanningOrder& planning);

/// Puts order and sizes into a plan. The rounds' order is drawn from `seed`.
[[nodiscard]] Plan withCandidate(Plan plan, const CandidatePlan& candidate, int seed);

/// Why there is no plan, as a sentence. `has_limit`: a time was given into which it should fit.
[[nodiscard]] const char* noPlanText(const PlanningOrder& planning, bool has_limit);

}  // namespace core
