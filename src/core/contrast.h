#pragma once

#include <optional>
#include <span>

#include "core/result.h"

namespace core {

/// Why a difference comes without an interval.
enum class NoInterval { TooFewPasses, NoSpread };

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
  double visits_baseline = 1;
  double visits_changed = 1;
  bool is_visit_means = false;  ///< `sd` is that of whole visit means: it stands in place of the passes' spread
};

/// Wraps difference, standard error and degrees of freedom into a contrast.
/// A standard error below 1e-12 gives the point estimate only: the metric's resolution hides the spread.
[[nodiscard]] Contrast contrastFrom(double difference, double se, double df, double confidence);

/// Difference of means, variances not assumed equal; a known flip sd joins the variance.
/// Shapes  one value per pass, any order, at least 1 on each side (fewer than 2 on a side: point estimate only)
/// Units   both groups in one unit; the result in that unit; confidence in (0, 1)
/// Errors  TooFew for an empty side, OutOfRange for a confidence or a value that is not finite. Never NaN
/// Source  Welch 1947, df by Satterthwaite 1946; held to 1e-9 relative by known-answer vectors
[[nodiscard]] Result<Contrast> welchDifference(std::span<const double> baseline, std::span<const double> changed,
                                               double confidence, const std::optional<FlipSd>& flip = {});

/// Difference of means with one pooled variance: for visit means, each weighted equally. df = n_a + n_b - 2.
/// Shapes, units, errors as welchDifference; at least 3 values in all for an interval
[[nodiscard]] Result<Contrast> pooledDifference(std::span<const double> baseline, std::span<const double> changed,
                                                double confidence);

/// Mean of paired differences (one a round), paired t, df = n - 1.
/// Shapes  differences: changed minus baseline, one a round
/// Errors  as welchDifference
[[nodiscard]] Result<Contrast> pairedDifference(std::span<const double> differences, double confidence);

/// Arithmetic mean; `values` not empty.
[[nodiscard]] double meanOf(std::span<const double> values);

/// Sum of squared deviations from the mean.
[[nodiscard]] double sumOfSquares(std::span<const double> values);

}  // namespace core
