#pragma once

#include <cstddef>
#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "core/estimate/round_residual.h"
#include "core/estimate/units.h"
#include "core/values/metric.h"

namespace core {

/// What an interval owes to the configurations that its contrast does not compare.
struct SharedSpread {
  RoundResidual residual;
  Contrast own;    ///< by the contrast's own spread alone
  Contrast mixed;  ///< by both, before rounding
};

/// The change of a pair on one case. On the ln scale unless a value was 0 or below, then in the metric's own unit.
struct Effect {
  EstimatorChoice design;
  bool is_log = true;         ///< false where the metric is a difference by nature, or a value is 0 or below
  Contrast contrast;          ///< changed minus baseline
  double level_baseline = 0;  ///< exp(mean ln) as the estimator sees it; the plain mean when not is_log
  double level_changed = 0;
  std::vector<double> round_differences;          ///< for `rounds`
  std::optional<std::size_t> spread_rounds = {};  ///< so many of them, the first, tell the spread; nothing: all
  std::vector<double> baseline_units;  ///< what the estimator compared: passes or visit means, on the scale used
  std::vector<double> changed_units;
  std::optional<FlipSd> flip;  ///< the null study's, when one was used
  double rounding = 0;         ///< the standard error is never below it: what the last digit of rounded values hides
  std::optional<SharedSpread> shared = {};  ///< where the spread of all configurations is in the interval

  /// True for `passes` without a null study: what flipping adds was never seen.
  [[nodiscard]] bool isFlipUnseen() const { return design.estimator == Estimator::Passes && !flip; }
};

/// A change in percent with its interval, lower end first.
struct PercentInterval {
  double lo = 0;
  double hi = 0;
};
struct PercentChange {
  double value = 0;
  std::optional<PercentInterval> interval;
};

/// A contrast of any configurations on one case.
struct WeightedEffect {
  EstimatorChoice design;
  bool is_log = true;  ///< false where the metric is a difference by nature, or a counted value is 0 or below
  Contrast contrast;
  Units units;                              ///< what the estimator compared, on the scale used
  std::optional<FlipSd> flip;               ///< the null study's, when one was used
  double rounding = 0;                      ///< as of Effect
  std::optional<SharedSpread> shared = {};  ///< as of Effect

  /// The mean of a configuration of the contrast as the estimator sees it: exp(mean ln), or the plain mean.
  [[nodiscard]] double levelAt(std::size_t configuration) const;
};

/// One configuration by itself: the means of its visits where there are several, else its passes; on the ln scale where
/// the metric is a ratio and no value is 0 or below. Empty without a value.
struct LevelUnits {
  bool is_log = true;
  std::vector<double> values;
  /// In the metric's unit, geometric where is_log.
  [[nodiscard]] std::optional<double> mean() const;
};
[[nodiscard]] LevelUnits levelUnits(std::span<const VisitValues> visits, ConfigurationId at, Scale scale);

/// The visits that have logarithms; nothing where a value of 0 or below counts for the contrast, which is not the case
/// in a round that is left out of it.
[[nodiscard]] std::optional<std::vector<VisitValues>> positiveVisits(std::span<const VisitValues> visits,
                                                                     Weights weights);

/// Estimates a contrast of one metric on one case, by the estimator that its configurations allow.
/// Shapes  visits: any order; visits without values, and those to configurations of weight 0, are skipped.
///         `everywhere`: the visits to all configurations of the study, where the plan shares their spread; empty: each
///         contrast has its own
/// Units   values in the metric's own unit; `confidence` in (0, 1)
/// Errors  as contrastOf
[[nodiscard]] Result<WeightedEffect> weightedEffectOf(std::span<const VisitValues> visits, Weights weights,
                                                      double confidence, const std::optional<FlipSd>& flip = {},
                                                      Scale scale = Scale::Ratio,
                                                      std::span<const VisitValues> everywhere = {});

/// A contrast with the direction of its metric taken out: positive is better. Errors stay what they are.
[[nodiscard]] Result<Contrast> onImprovementScale(Result<Contrast> contrast, Direction direction);

/// A contrast on the ln scale in percent, 100 (exp(d) - 1), its ends in order.
[[nodiscard]] PercentChange percentChangeOf(const Contrast& contrast);

/// Estimates the change of a pair of one metric on one case.
/// Shapes  visits: any order; visits without values are skipped
/// Units   values in the metric's own unit; `confidence` in (0, 1)
/// Errors  TooFew when a level has no counted pass; OutOfRange as in contrast.h
/// Source  weightedEffectOf with kPairWeights
[[nodiscard]] Result<Effect> effectOf(std::span<const VisitValues> visits, double confidence,
                                      const std::optional<FlipSd>& flip = {}, Scale scale = Scale::Ratio,
                                      std::span<const VisitValues> everywhere = {});

/// How far rounding alone may move the difference of two levels: equal roundings do not average out. 0 where nothing
/// was rounded. `is_log`: on the ln scale. Source  uniform error of the last digit
[[nodiscard]] double roundingError(std::span<const VisitValues> visits, bool is_log, Weights weights = kPairWeights);

/// Rounded values are never known better than their last digit: the interval is at least as wide as that makes it, and
/// stands on that alone, by the degrees of freedom of the design, where all were typed alike.
[[nodiscard]] Contrast withRounding(const Contrast& contrast, double rounding, double design_df, double confidence);

/// A change in the metric's own unit, with its interval.
struct UnitChange {
  double value = 0;
  std::optional<std::pair<double, double>> interval;
};

/// The change of a log effect in percent, the direction taken out: positive is better. Lower-is-better turns the ends
/// around.
[[nodiscard]] PercentChange improvementPercent(const Effect& effect, Direction direction);

/// Frames per second for a value in "fps"/"FPS" or "ms"; nothing for other units.
[[nodiscard]] std::optional<double> asFps(double value, const std::string& unit);

}  // namespace core
