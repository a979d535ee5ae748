#pragma once

#include <algorithm>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/estimate/effect.h"
#include "core/estimate/null_study.h"

namespace core {

/// How passes are spread over visits, as the estimator will see them.
enum class PlanDesign { Passes, Visits, Rounds };

/// What is known of a bench's noise before the first pass. Sds on the ln scale, or in the unit of the aim.
struct NoiseFloor {
  double pass_sd = 0.01;
  double flip_sd = 0;  ///< 0: nobody knows; then half a percent stands for it where one is needed
  /// Of the null study that it rests on; absent where it is a guess.
  struct Null {
    int visits = 0;
    std::optional<int> passes_per_visit;  ///< where all its visits have the same
    double flip_df = 1;
    [[nodiscard]] bool isUsable() const { return visits >= 6; }
    bool operator==(const Null&) const = default;
  };
  std::optional<Null> null;
  /// Degrees of freedom with which the sds are known: of a pilot those of its passes, of a null study its visits less
  /// one. Chances are averaged over what the spread may be then. 0: a guess, taken as it stands.
  double spread_df = 0;
  double df_share = 1;  ///< that each round brings a contrast, in its own: 2 where configurations share their spread
  bool operator==(const NoiseFloor&) const = default;
};

/// Where results are differences: what matters, in their unit, in which the noise is told as well.
struct UnitThreshold {
  double threshold = 1;
  std::string unit;  ///< "dB"
  bool operator==(const UnitThreshold&) const = default;
};

/// What a plan is asked to show.
struct PlanAim {
  double threshold_percent = 2;
  double confidence = 0.95;
  double power = 0.9;
  int cases = 1;  ///< of how many claims the one is, for which they are adjusted
  std::optional<UnitThreshold> unit = {};
  bool operator==(const PlanAim&) const = default;
  /// What matters, on the scale of the noise.
  [[nodiscard]] double delta() const;
  /// The confidence that a claim must reach among so many: the first step of Holm's rule, so a little too much.
  [[nodiscard]] double adjustedConfidence() const { return 1 - (1 - confidence) / std::max(1, cases); }
};

/// What a plan of one size buys.
struct PlanValue {
  double se = 0;
  double df = 1;
  double half_width = 0;         ///< ln scale, with the planned sds
  double median_half_width = 0;  ///< what it is in half of all studies
  double ncp = 0;
  double power = 0;                   ///< of excluding 0 when the truth is the threshold
  double chance_gain = 0;             ///< of "gain" when the truth is the threshold twice over
  double chance_nothing_matters = 0;  ///< of "no difference that matters" or "negligible" when the truth is 0
  bool is_flip_unseen = false;        ///< one visit a level and no usable null study: never sufficient
  double assumed_flip_sd = 0;         ///< for the next two, where the flip is unseen
  double interval_right = 1;          ///< how often its interval would hold the truth
  [[nodiscard]] bool reaches(const PlanAim& aim) const { return power >= aim.power; }
};

/// One size of a design.
/// Shapes  `size`: passes a level, visits a level, or rounds; `passes_per_visit` for the latter two
/// Errors  none: sizes below the design's least are raised to it
/// Source  noncentral t; Satterthwaite 1946 where a null study's flip sd joins; held by known-answer vectors
[[nodiscard]] PlanValue planValue(PlanDesign design, int size, int passes_per_visit, const NoiseFloor& noise,
                                  const PlanAim& aim);

/// The smallest size that reaches the aim; nothing where no size up to 1000 does.
[[nodiscard]] std::optional<int> smallestSize(PlanDesign design, int passes_per_visit, const NoiseFloor& noise,
                                              const PlanAim& aim);

/// The change that a size finds with the power asked for: in percent, or in the unit of the aim.
[[nodiscard]] double smallestDetectable(PlanDesign design, int size, int passes_per_visit, const NoiseFloor& noise,
                                        const PlanAim& aim);

/// The fewest that a design can do with: 2 passes, 2 visits, 3 rounds.
[[nodiscard]] int leastSize(PlanDesign design);

/// How long the parts of the bench work take, in minutes.
struct BenchTimes {
  double flip = 5;
  double settle = 1;
  double pass = 2;  ///< all cases together: a visit runs each of them
  double pause = 0;
  bool operator==(const BenchTimes&) const = default;
};

/// Minutes for a sequence of visits; the first one counts a flip too.
[[nodiscard]] double planMinutes(int visits, int passes_per_visit, int warm_ups, const BenchTimes& times);

/// Mean time of one configuration's visits minus another's, in hours: a drift of x %/h pretends an effect of x times
/// that. Shapes  one configuration and number of counted passes a visit, in order; 0 where one is not visited
struct TimedVisit {
  ConfigurationId configuration = ConfigurationId::Baseline;
  int passes = 1;
};
[[nodiscard]] double exposureHours(std::span<const TimedVisit> visits, ConfigurationId from, ConfigurationId to,
                                   int warm_ups, const BenchTimes& times);

}  // namespace core
