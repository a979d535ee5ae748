#pragma once

#include <span>
#include <vector>

#include "core/estimate/effect.h"

namespace core {

/// One case of a suite: its passes, and which way its metric is better.
struct SuiteCase {
  Direction direction = Direction::HigherIsBetter;
  std::vector<VisitValues> visits;
  std::vector<std::vector<double>> null_visits = {};  ///< of a null study; empty where there is none
  std::vector<VisitValues> everywhere = {};  ///< to all configurations, where they share their spread; else empty
  bool operator==(const SuiteCase&) const = default;
};

/// Where a next case of the kind of these would probably land, and how such cases are spread: improvement, ln scale.
struct NextCase {
  double lo = 0;  ///< of the prediction interval at the suite's confidence
  double hi = 0;
  double mean = 0;
  double sd = 0;  ///< of a next one: with what the mean itself may be off by
  double df = 1;
  /// The share of such cases beyond a bound.
  [[nodiscard]] double shareAbove(double bound) const;
};

/// Several cases that ran in the same visits, summed up on the improvement scale with equal weight.
struct SuiteSummary {
  EstimatorChoice design;     ///< from the visits and rounds that are complete for every case
  Contrast this_suite;        ///< improvement, ln scale: these cases on this bench
  Contrast cases_like_these;  ///< the same for cases of which these are a sample; never narrower than this_suite
  bool is_widened = false;    ///< cases_like_these took over this_suite's wider interval
  std::optional<NextCase> next_case = {};  ///< told from five cases on
  std::optional<FlipSd> flip = {};         ///< the null study's, when one was used
  double rounding = 0;  ///< the standard error is never below it: what the last digit of typed values hides
  std::optional<SharedSpread> shared = {};  ///< where the spread of all configurations is in its interval
  double arithmetic_mean_percent = 0;       ///< for comparison with published work only
  [[nodiscard]] bool isFlipUnseen() const { return design.estimator == Estimator::Passes && !flip; }
};

/// The suite's own visits, improvement scale: those in which every case has a counted pass, each with the mean over the
/// cases of their visit means. Shapes  as summarizeSuite; values > 0
[[nodiscard]] std::vector<VisitValues> suiteVisits(std::span<const SuiteCase> cases);

/// Sums up cases that share their flips: the suite gets its own value for each visit or round first, because a lucky
/// flip moves all cases at once and averaging over cases does not remove it.
/// Shapes  at least one case; visits matched by their number; values > 0, but for `everywhere`
/// Errors  TooFew when no visit is complete for every case at a configuration of the contrast; OutOfRange for values <=
/// 0
[[nodiscard]] Result<SuiteSummary> summarizeSuite(std::span<const SuiteCase> cases, double confidence,
                                                  Weights weights = kPairWeights);

/// Sums up cases that ran in visits of their own: their variances add up over k^2, df by Satterthwaite.
/// Shapes  improvement, ln scale, one a case; at least one. A case without an interval leaves the suite without one
/// Errors  TooFew without a case
[[nodiscard]] Result<SuiteSummary> summarizeSeparateVisits(std::span<const Contrast> cases, double confidence);

}  // namespace core
