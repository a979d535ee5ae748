#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/estimate/effect.h"

namespace core {

/// What a study found in which the flip was performed but the level stayed: a bench's noise floor. All on the ln scale.
struct NullStudy {
  int visits = 0;
  double visit_sd = 0;            ///< of the visit means; df = visits - 1
  std::optional<double> pass_sd;  ///< pooled within the visits; absent where every visit is a single pass
  int pass_df = 0;
  double passes_per_visit = 1;                ///< harmonic mean
  std::optional<int> same_passes_everywhere;  ///< the number, where all visits have the same
  double flip_sd = 0;
  double flip_df = 1;

  [[nodiscard]] int visitDf() const { return visits - 1; }
  /// With fewer than six visits it is shown but not used.
  [[nodiscard]] bool isUsable() const { return visits >= 6; }
};

/// Shapes  at least 2 visits with at least one pass each; values > 0
/// Errors  TooFew, OutOfRange
/// Source  method of moments; df by Satterthwaite 1946; held by known-answer vectors
[[nodiscard]] Result<NullStudy> nullStudy(std::span<const std::vector<double>> visits);

/// The flips' part of the visits' spread: what the passes' own spread in a visit mean leaves of it.
/// Shapes  `of_passes`: variance of a visit mean by its passes; `spread`: its square over its df, the terms added up
void takeFlips(NullStudy& null_study, double of_passes, double spread);

/// What a null study says about the flips of a study. Where every visit of both has the same number of passes, the sd
/// of the visit means is all there is; otherwise the flip sd joins the passes' own. Nothing for one that is not usable.
[[nodiscard]] std::optional<FlipSd> flipSdFrom(const NullStudy& null_study, std::span<const VisitValues> visits,
                                               Weights weights = kPairWeights);

}  // namespace core
