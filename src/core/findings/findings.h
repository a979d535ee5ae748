#pragma once

#include <array>
#include <cmath>
#include <map>
#include <optional>
#include <span>
#include <string>
#include <unordered_set>
#include <vector>

#include "core/estimate/claims.h"
#include "core/estimate/half_width.h"
#include "core/estimate/quality.h"
#include "core/estimate/second_opinion.h"
#include "core/estimate/spread.h"
#include "core/estimate/suite.h"
#include "core/estimate/verdict.h"
#include "core/estimate/yardsticks.h"
#include "core/findings/bound.h"
#include "core/findings/holds_target.h"
#include "core/findings/suite_readings.h"
#include "core/frames/frame_metrics.h"
#include "core/record/case_passes.h"
#include "core/record/pass.h"
#include "core/record/record.h"
#include "core/record/sheet_ledger.h"
#include "core/study/asked_contrasts.h"

namespace core {

/// A secondary metric of a case at both levels. It never carries a verdict of the study.
struct SecondaryMetric {
  std::string name;  ///< "1 % low (percentile)"
  std::string unit;
  Direction direction = Direction::HigherIsBetter;
  double baseline = 0;  ///< level as the estimator sees it
  double changed = 0;
  std::optional<PercentChange> change;  ///< of the metric itself; absent where a value is 0
  std::optional<PercentInterval> improvement;
  std::size_t fewest_frames = 0;  ///< the fewest frames that it rests on in any pass; 0 = does not apply
  /// Does each level hold the target rate with it, baseline and changed?
  std::array<HoldsTarget, 2> holds{HoldsTarget::DoesNotApply, HoldsTarget::DoesNotApply};
  [[nodiscard]] bool isThin() const { return fewest_frames > 0 && fewest_frames < 10; }
};

/// A pass of a case that its finding does not rest on.
struct LeftOut {
  std::int64_t pass_id = 0;
  std::string why;  ///< "warm-up", "failed", a person's cause
};

/// The one level at which a case has a result, where it has none at the other.
struct OnlyLevel {
  ConfigurationId at = ConfigurationId::Baseline;
  LevelValue level;
};

/// Passes of a case at one level, and how likely a clean group has one as far out as the farthest.
struct OddGroup {
  double p = 1;
  std::vector<std::int64_t> passes;  ///< that lie far out, by id
  std::optional<int> visit;          ///< where they are all of one
};

/// A rate beside the target, and whether each level holds it: baseline and changed.
struct FurtherTarget {
  double fps = 0;
  std::array<HoldsTarget, 2> holds{HoldsTarget::DoesNotApply, HoldsTarget::DoesNotApply};
};

/// A round of which a case has passes, but not what it compares.
struct RoundLeftOut {
  int round = 0;
  std::string why;  ///< "failed", "driver update", "no pass at Gen 3"
};

/// What the passes of one case say.
struct CaseFinding : Claimed {
  std::size_t case_index = 0;
  std::string title;
  Metric metric;
  int counted_baseline = 0;
  int counted_changed = 0;
  int failed = 0;
  std::vector<std::int64_t> counted;          ///< what the finding rests on: passes by id, in order of recording
  std::vector<LeftOut> left_out;              ///< and every other pass of the case, with the reason
  std::vector<RoundLeftOut> rounds_left_out;  ///< of a plan of rounds, once nothing of them is to come
  std::string why_no_effect;                  ///< a sentence where there is no effect, else empty
  std::optional<OnlyLevel> only;              ///< where it runs at one level alone
  std::optional<Effect> effect;
  std::optional<UnitChange> difference;             ///< in the metric's unit, where a percentage makes no sense
  PercentChange change;                             ///< of the metric
  PercentChange improvement;                        ///< direction taken out: what the chart shows
  NoticeThreshold threshold;                        ///< of this case; of a metric with a percentage
  std::optional<double> tipping_zero_percent;       ///< flip sd at which the interval reaches 0
  std::optional<double> tipping_threshold_percent;  ///< ... reaches the threshold; for gain and loss only
  std::optional<RunToRunSpread> spread;
  std::optional<double> frame_ms_change;
  std::optional<double> fps_gained;
  HoldsTarget holds_baseline = HoldsTarget::DoesNotApply;
  HoldsTarget holds_changed = HoldsTarget::DoesNotApply;
  std::array<std::optional<PercentChange>, 2> needed{};  ///< for the target rate, baseline and changed
  std::vector<FurtherTarget> further_targets;
  /// The one level that holds the target rate where the other surely does not.
  [[nodiscard]] std::optional<ConfigurationId> holdsOnlyAt() const {
    if (holds_baseline == HoldsTarget::Holds && holds_changed == HoldsTarget::Fails) return ConfigurationId::Baseline;
    if (holds_changed == HoldsTarget::Holds && holds_baseline == HoldsTarget::Fails) return ConfigurationId::Changed;
    return std::nullopt;
  }
  /// Did it surely move, in percent or in its unit?
  [[nodiscard]] bool doesExcludeZero() const {
    return effect && effect->contrast.inference &&
           (effect->contrast.inference->lo > 0 || effect->contrast.inference->hi < 0);
  }
  std::vector<SecondaryMetric> secondary;
  double median_frame_percent = 0;  ///< how the median frame changed; stutters are told against it
  /// Did it change so much that stutters of the two levels are not the same thing? Then long frames say it.
  [[nodiscard]] bool areStuttersUnlike() const { return std::abs(median_frame_percent) > 10; }
  std::vector<OddGroup> odd_groups;      ///< of each level with enough passes, before they are adjusted
  std::vector<std::int64_t> odd_passes;  ///< by id: far from their fellows at the same level
  std::vector<int> odd_visits;           ///< planned visits whose passes all came out so; named in their place
  std::optional<Drift> drift;            ///< where the case was measured at both levels
  std::optional<WarmUp> warm_up;
  bool is_warm_up_seen = false;
  std::optional<std::size_t> fewest_frames;     ///< of any counted pass; absent without frame logs
  std::optional<SecondOpinion> second_opinion;  ///< where there is an interval
  std::optional<FurtherRounds> further;         ///< what would be expected to settle it, where it is not settled
  std::optional<Standing> by_band;              ///< by the study's fixed band
  std::optional<Standing> by_two_sds;           ///< by two run-to-run sds
  std::array<BoundFinding, 2> bound;            ///< what held the passes back, baseline and changed
  bool is_bound_elsewhere = false;              ///< so that it cannot show what was changed
};

class CaseMemory;

/// The answer of a study: one set of numbers for window, command line and report.
struct Findings {
  double confidence = 0.95;  ///< of every interval; higher than what was asked where looks are paid for
  int planned_passes = 0;
  int recorded_passes = 0;  ///< slots with a record, finished or failed
  int failed_passes = 0;
  int excluded_passes = 0;      ///< left out by a person
  int retired_passes = 0;       ///< finished, but of a visit that is not comparable with its level's
  PartsDone done;               ///< the answer rests on the first part of the plan
  std::string null_study_date;  ///< of the null study that stands in for flips that were not repeated; else empty
  std::string opened_early;     ///< why somebody looked before the plan was complete; empty where nobody did
  std::vector<CaseFinding> cases;
  std::unordered_set<std::int64_t> counted;         ///< passes by id that count, at whatever configuration
  std::map<std::int64_t, std::string> not_counted;  ///< every other pass by id, and why it does not
  std::optional<SuiteReadings> readings;            ///< with a suite: its cases by preset, by workload, and otherwise
  /// Of the suite's cases, those that surely gain, or lose, and still do among so many; as much as matters or not.
  [[nodiscard]] int gains() const;
  [[nodiscard]] int losses() const;
  std::optional<SuiteFinding> suite;  ///< with two cases or more, once every case has passes at both levels
};

/// Computes the findings of a study from everything recorded so far: of two of its configurations, for which baseline
/// and changed level stand. How the sheet goes on, and how steady the bench is, is that of the whole study.
/// Shapes  passes of `retired_visits` (by id) stay out; visits and passes in any order; of several attempts at one slot
/// the finished one counts. Slots that a person skipped are done. Cases that should not respond stay out of the suite.
/// A study that a person stopped at a planned look is complete. Where flips were not repeated, the record's null study
/// stands in for them. `memory` spares the cases of which nothing has changed since the last time. With
/// `ExcludedPasses::Count` as they would be if nobody had left a pass out.
[[nodiscard]] Findings findingsOf(const Study& study, const Record& record,
                                  std::span<const std::int64_t> retired_visits = {}, PairOf pair = {},
                                  CaseMemory* memory = nullptr, ExcludedPasses excluded = ExcludedPasses::StayOut);

/// The case that moved least, beside one that moved: a measure of calm for a second look. Nothing in a study of one
/// case.
[[nodiscard]] std::optional<std::size_t> leastSurprising(const Findings& findings, std::size_t surprising);

}  // namespace core
