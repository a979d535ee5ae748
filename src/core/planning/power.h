#pragma once

namespace core {

/// The power of a t test, for planning. `ncp` is the true effect in standard errors, `t_critical` the two-sided
/// quantile.

/// The chance that the interval excludes 0 on either side. Source  noncentral t, Johnson & Welch 1940, integrated over
/// the standard error that a study sees: a series would take seconds where a confidence is next to 1
[[nodiscard]] double chanceOfExcludingZero(double ncp, double df, double t_critical);

/// The chance that it lies above 0.
[[nodiscard]] double chanceOfLyingAbove(double ncp, double df, double t_critical);

/// The effect, in standard errors, that is found with the chance asked for.
[[nodiscard]] double effectFoundWith(double chance, double df, double t_critical);

/// The chance that an interval around an effect that is 0 lies within a bound on both sides; `bound` in standard
/// errors. Source  normal estimate, its standard error as chi over df, integrated numerically
[[nodiscard]] double chanceOfLyingWithin(double bound, double df, double t_critical);

}  // namespace core
