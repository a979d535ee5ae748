#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/values/result.h"

namespace core {

/// Why a difference comes without an interval.
enum class NoInterval {
  TooFewPasses,
  NoSpread,
  BeyondNumbers  ///< values so large that their squares are none any more
};

/// Sampling evidence for a difference, in the unit of the values. Two-sided, from one t distribution.
struct Inference {
  double df = 0;
  double t = 0;
  double p = 1;
  double lo = 0;
  double hi = 0;
  double t_quantile = 0;  ///< two-sided t at the confidence asked for; half the width is t_quantile * se
};

/// Changed minus baseline, with its evidence. `inference` is absent exactly when `no_interval` says why.
struct Contrast {
  double difference = 0;
  std::optional<double> se;  ///< absent when there are too few values to know it
  std::optional<Inference> inference;
  std::optional<NoInterval> no_interval;
};

/// The variation that flipping by itself adds to every visit, known from a null study.
struct FlipSd {
  double sd = 0;  ///< ln scale
  double df = 1;
  std::vector<double> visits = {1, 1};  ///< how many of them there are, by configuration
  bool is_visit_means = false;          ///< `sd` is that of whole visit means: it stands in place of the passes' spread

  /// What it adds to the variance of a contrast: sd^2 times the sum of w^2 / visits.
  [[nodiscard]] double varianceOf(std::span<const double> weights) const;
};

/// Errors  OutOfRange for one that does not lie between 0 and 1
[[nodiscard]] Status checkConfidence(double confidence);

/// Is a deviation no more than what rounding leaves of values of that size? `size`: the largest of them, absolute; on
/// the ln scale, where rounding does not grow with the value, 1 at least.
[[nodiscard]] bool isWithoutSpread(double deviation, double size = 1);

/// Wraps difference, standard error and degrees of freedom into a contrast.
/// Without spread in values of that `size` it gives the point estimate only: the metric's resolution hides the spread.
/// So does a standard error that no number holds.
[[nodiscard]] Contrast contrastFrom(double difference, double se, double df, double confidence, double size = 1);

/// Two-sided quantile of Student's t: half an interval's width in standard errors.
[[nodiscard]] double tQuantile(double df, double confidence);

/// Mean of paired differences (one a round), paired t, df = n - 1.
/// Shapes  differences: changed minus baseline, one a round; `size`: of the values that they are differences of
/// Errors  TooFew for none, OutOfRange for a confidence or a value that is not finite
[[nodiscard]] Result<Contrast> pairedDifference(std::span<const double> differences, double confidence,
                                                double size = 1);

/// Arithmetic mean; `values` not empty.
[[nodiscard]] double meanOf(std::span<const double> values);

/// The largest absolute value; 0 of none.
[[nodiscard]] double largestOf(std::span<const double> values);

/// Sum of squared deviations from the mean.
[[nodiscard]] double sumOfSquares(std::span<const double> values);

}  // namespace core
