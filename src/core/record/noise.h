#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/estimate/null_study.h"
#include "core/record/noise_key.h"
#include "core/record/null_record.h"
#include "core/record/pass.h"
#include "core/study/study.h"

namespace core {

/// The noise of one case on a bench, as a null study found it; or a pilot, a few passes that know nothing of flips.
struct CaseNoise {
  std::string title;
  NullStudy noise;
  std::vector<std::vector<double>> visits = {};  ///< of a null study: the values of each visit; empty where unknown
  std::optional<NoiseKey> key = {};              ///< whose noise it is; nothing in registers from before it was told

  /// Only the spread of its passes is known.
  [[nodiscard]] bool isPilot() const { return noise.visits < 2; }
};

/// How a case that somebody plays is called where its noise is kept: it is that of its player.
[[nodiscard]] std::string noiseTitle(const Case& a_case, const std::string& player);
/// Is this the noise of that case, whoever plays it?
[[nodiscard]] bool isNoiseOf(const CaseNoise& noise, const Case& a_case);

/// May flips of it stand for flips of this study's case, in an interval? Only of the same case as it runs, the same
/// metric, the same kind of variable and the same way to set it.
[[nodiscard]] bool isOfTheSameFlip(const CaseNoise& noise, const Study& study, std::size_t case_index);

/// What a study's null record says of a case's flips: the values of each visit. A case that somebody plays has the
/// noise of its player; where several played, the first. Empty where nothing is known.
[[nodiscard]] std::vector<std::vector<double>> nullVisitsOf(const Case& a_case, const std::optional<NullRecord>& known);

/// What the visits of a null study say about each case; cases that it cannot tell of are left out.
/// Shapes  visits and passes in any order; both sides count, since the level stays
[[nodiscard]] std::vector<CaseNoise> noiseOf(const Study& study, std::span<const Visit> visits,
                                             std::span<const Pass> passes);

/// The spread of passes that any study shows beside its answer: a pilot for later plans. Cases with fewer than three
/// passes in the visits that have several are left out.
[[nodiscard]] std::vector<CaseNoise> pilotOf(const Study& study, std::span<const Visit> visits,
                                             std::span<const Pass> passes);

}  // namespace core
