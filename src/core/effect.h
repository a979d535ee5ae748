#pragma once

#include <cstddef>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/contrast.h"
#include "core/metric.h"

namespace core {

/// The two sides of a comparison. Written into study files; never renumbered.
enum class Side { Baseline = 0, Changed = 1 };

/// How an effect was estimated. Chosen by the design alone, never by the data; always shown.
enum class Estimator { Passes, Visits, Rounds };
[[nodiscard]] const char* estimatorName(Estimator estimator);

/// The counted passes of one case in one visit, in the metric's own unit.
struct VisitValues {
  Side side = Side::Baseline;
  int visit = 0;               ///< the visit's number; the same number in every case that ran in it
  int round = 0;               ///< from 1; 0 = in no round
  std::vector<double> values;  ///< may be empty: such a visit does not exist for this case
  double resolution = 0;  ///< of typed values: the step of their last digit, or a range's width, the largest; else 0
};

/// What the design of the passes allows.
struct EstimatorChoice {
  Estimator estimator = Estimator::Passes;
  bool has_interval = false;  ///< false with fewer than 2 counted passes at a level
  int complete_rounds = 0;
  int incomplete_rounds = 0;
  int visits_baseline = 0;
  int visits_changed = 0;
  int passes_baseline = 0;
  int passes_changed = 0;
};

/// The first estimator that fits: fewer than 2 passes at a level: `passes`, point only; 3 or more complete rounds:
/// `rounds`; 2 or more visits at each level: `visits`; otherwise `passes`.
[[nodiscard]] EstimatorChoice chooseEstimator(std::span<const VisitValues> visits);

/// The change on one case. On the ln scale unless a value was 0 or below, then in the metric's own unit.
struct Effect {
  EstimatorChoice design;
  bool is_log = true;         ///< false where the metric is a difference by nature, or a value is 0 or below
  Contrast contrast;          ///< changed minus baseline
  double level_baseline = 0;  ///< exp(mean ln) as the estimator sees it; the plain mean when not is_log
  double level_changed = 0;
  std::vector<double> round_differences;  ///< for `rounds`
  std::vector<double> baseline_units;     ///< what the estimator compared: passes or visit means, on the scale used
  std::vector<double> changed_units;
  std::optional<FlipSd> flip;  ///< the null study's, when one was used

  /// True for `passes` without a null study: what flipping adds was never seen.
  [[nodiscard]] bool isFlipUnseen() const { return design.estimator == Estimator::Passes && !flip; }
};

/// Estimates the change of one metric on one case.
/// Shapes  visits: any order; visits without values are skipped
/// Units   values in the metric's own unit; `confidence` in (0, 1)
/// Errors  TooFew when a level has no counted pass; OutOfRange as in contrast.h
/// Source  Student t, paired and pooled; Welch 1947
[[nodiscard]] Result<Effect> effectOf(std::span<const VisitValues> visits, double confidence,
                                      const std::optional<FlipSd>& flip = {}, Scale scale = Scale::Ratio);

/// How far rounding alone may move the difference of two levels: equal roundings do not average out. 0 where nothing
/// was typed. `is_log`: on the ln scale. Source  uniform error of the last digit
[[nodiscard]] double roundingError(std::span<const VisitValues> visits, bool is_log);

/// A change in percent with its interval, lower end first.
struct PercentInterval {
  double lo = 0;
  double hi = 0;
};
struct PercentChange {
  double value = 0;
  std::optional<PercentInterval> interval;
};

/// The change of a log effect in percent of the metric: 100 (exp(d) - 1).
[[nodiscard]] PercentChange changePercent(const Effect& effect);

/// The same with the direction taken out: positive is better. Lower-is-better turns the ends around.
[[nodiscard]] PercentChange improvementPercent(const Effect& effect, Direction direction);

/// Frames per second for a value in "fps"/"FPS" or "ms"; nothing for other units.
[[nodiscard]] std::optional<double> asFps(double value, const std::string& unit);

}  // namespace core
