#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <span>
#include <vector>

#include "core/estimate/contrast.h"

namespace core {

/// A configuration's place in its study: one level of every variable. The first is the baseline; of a pair the second
/// is the changed level. Written into study files; never renumbered.
enum class ConfigurationId : std::uint16_t { Baseline = 0, Changed = 1 };
[[nodiscard]] constexpr std::size_t placeOf(ConfigurationId configuration) {
  return static_cast<std::size_t>(configuration);
}
[[nodiscard]] constexpr ConfigurationId configurationAt(std::size_t place) {
  return static_cast<ConfigurationId>(place);
}

/// How an effect was estimated. Chosen by the design alone, never by the data; always shown.
enum class Estimator { Passes, Visits, Rounds };
[[nodiscard]] const char* estimatorName(Estimator estimator);

/// The counted passes of one case in one visit, in the metric's own unit.
struct VisitValues {
  ConfigurationId configuration = ConfigurationId::Baseline;
  int visit = 0;               ///< the visit's number; the same number in every case that ran in it
  int round = 0;               ///< from 1; 0 = in no round
  std::vector<double> values;  ///< may be empty: such a visit does not exist for this case
  double resolution = 0;  ///< the step of the last digit that values were rounded to, or a typed range's width; else 0
  bool tells_spread = true;  ///< false: its round adds to the mean only, for its number was chosen by the spread
  bool operator==(const VisitValues&) const = default;
};

/// A contrast's weights, one for each configuration of the study; they sum to 0.
using Weights = std::span<const double>;
/// Changed minus baseline.
inline constexpr std::array kPairWeights{-1.0, 1.0};
/// Configuration `to` minus configuration `from`, of so many.
[[nodiscard]] std::vector<double> differenceWeights(std::size_t configurations, std::size_t from, std::size_t to);

/// What the design of the passes allows for a contrast.
struct EstimatorChoice {
  Estimator estimator = Estimator::Passes;
  bool has_interval = false;  ///< false with fewer than 2 counted passes at one of its configurations
  int complete_rounds = 0;    ///< that hold a counted pass of each of its configurations
  int incomplete_rounds = 0;
  std::vector<int> visits = {0, 0};  ///< by configuration
  std::vector<int> passes = {0, 0};
};

/// The first estimator that fits over the configurations whose weight is not 0. Fewer than 2 passes at one of them:
/// `passes`, point only; 3 or more complete rounds: `rounds`; 2 or more visits to each: `visits`; otherwise `passes`.
/// A visit to a configuration without a weight does not count.
[[nodiscard]] EstimatorChoice chooseEstimator(std::span<const VisitValues> visits, Weights weights = kPairWeights);

/// What an estimator compares, by configuration: the passes, the means of the visits, or the means of the complete
/// rounds, in the order of their numbers.
struct Units {
  Estimator estimator = Estimator::Passes;
  std::vector<std::vector<double>> at;
  std::optional<std::size_t> spread_rounds = {};  ///< so many of the rounds, the first, tell the spread; nothing: all

  [[nodiscard]] double meanAt(std::size_t configuration) const { return meanOf(at[configuration]); }
  /// Degrees of freedom that the design gives a contrast, whatever the values.
  [[nodiscard]] double designDf(Weights weights) const;
  /// The largest of them, absolute: what rounding is measured against.
  [[nodiscard]] double size() const;
};
[[nodiscard]] Units unitsOf(std::span<const VisitValues> visits, Weights weights, Estimator estimator);

/// Does a round hold a counted pass at each configuration of the contrast?
[[nodiscard]] bool isCompleteRound(std::span<const VisitValues> visits, int round, Weights weights);

/// A weighted sum of configurations with its evidence. Passes: variances not assumed equal; a known flip sd joins them.
/// Visits: one variance, pooled over the configurations of the contrast. Rounds: t on each round's own sum; of an
/// extended plan the spread is that of the first part.
/// Shapes  one list of units a weight; those of weight 0 are left out; rounds of one length. `flip` has its visits by
///         configuration
/// Errors  TooFew for a configuration of the contrast without a unit; OutOfRange for units or weights that are not
///         finite, weights that do not sum to 0, rounds of unequal number, a confidence outside (0, 1). Never NaN
/// Source  Student t, paired and pooled; Welch 1947, df by Satterthwaite 1946; Stein 1945; held to 1e-9 relative by
/// known-answer
///         vectors
[[nodiscard]] Result<Contrast> contrastOf(const Units& units, Weights weights, double confidence,
                                          const std::optional<FlipSd>& flip = {});

/// What each round says: its own weighted sum. Units of rounds only.
[[nodiscard]] std::vector<double> roundSums(const Units& units, Weights weights);

}  // namespace core
