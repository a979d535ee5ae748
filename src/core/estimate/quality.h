#pragma once

#include <algorithm>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/estimate/effect.h"

namespace core {

/// Passes of one case at one level that lie far from their fellows. Nothing is left out by it: a person decides, and by
/// a physical cause.
struct OddPasses {
  enum class Measure { MedianDeviation, MeanDeviation, None };
  bool is_assessed = false;  ///< with five passes or more
  Measure measure = Measure::None;
  double median = 0;   ///< of ln(value)
  double mad = 0;      ///< median absolute deviation from it
  double mean_ad = 0;  ///< mean absolute deviation from it
  double cut = 0;      ///< beyond this a modified z is odd
  double p = 1;        ///< how many clean groups of that size have one as far out as the farthest
  std::vector<double> modified_z;
  std::vector<std::size_t> flagged;  ///< positions in the input, from 0
  std::optional<int> odd_visit;      ///< two or more flagged passes, all of one visit, where there are several visits
};

/// Shapes  values > 0, of one case at one level; `visits` of the same length, or empty where they are not known
/// Source  modified z of Iglewicz & Hoaglin 1993, cuts for about one clean group in twenty; held by vectors
[[nodiscard]] OddPasses oddPasses(std::span<const double> values, std::span<const int> visits = {});

/// The share of clean groups of `n` that have a modified z as large; 1 for what one in five has. Source  a million
/// normal groups of each size; log-linear between
[[nodiscard]] double oddP(std::size_t n, double largest_z);

/// A pass with its time, for drift.
struct TimedPass {
  int visit = 0;
  int level = 0;     ///< a number for each level; any numbers
  double hours = 0;  ///< when it began
  double value = 0;
};

/// How a bench drifts over the hours, told from its levels.
struct Drift {
  int visits = 0;
  double exposure_hours = 0;  ///< mean time of the changed level's visits minus the baseline's
  int df = 0;
  bool is_estimable = false;  ///< false: drift cannot be told from the change in this design
  bool is_flagged = false;
  double per_hour = 0;  ///< ln scale
  double se = 0;
  double p = 1;
  std::optional<double> p_holm;  ///< among the cases of its study, where it has any
  double lo = 0;                 ///< of per_hour
  double hi = 0;
  double span_hours = 0;   ///< from the first pass to the last
  double adjusted_se = 0;  ///< of the change with the drift taken out, ln scale; 0 where nothing tells it
  /// What the drift may pretend to be an effect of, in ln units: the lower end, the upper end.
  [[nodiscard]] double biasLo() const { return std::min(exposure_hours * lo, exposure_hours * hi); }
  [[nodiscard]] double biasHi() const { return std::max(exposure_hours * lo, exposure_hours * hi); }
};

/// Shapes  values > 0; passes in any order
/// Source  least squares of the visit means of ln(value) on level and time, equal weights; held by vectors
[[nodiscard]] Drift driftOf(std::span<const TimedPass> passes, int baseline, int changed, double confidence);

/// A change on the ln scale with the drift taken out: time as a covariate. To stand beside the estimate, never in its
/// place. Source  analysis of covariance of the visit means
[[nodiscard]] Contrast withDriftOut(const Contrast& change, const Drift& drift, double confidence);

/// What the first counted pass of a visit differs by from the others.
struct WarmUp {
  int visits_used = 0;
  std::optional<double> difference;  ///< ln scale; absent without a visit of two passes
  std::optional<double> se;
  std::optional<Inference> inference;
};

/// Shapes  one list of values > 0 a visit, in the order in which they ran
/// Source  t over the visits that have two passes or more; held by vectors
[[nodiscard]] WarmUp warmUpOf(std::span<const std::vector<double>> visits, double confidence);

}  // namespace core
