#pragma once

#include <span>
#include <string>
#include <vector>

#include "core/findings/findings.h"
#include "core/findings/shape_findings.h"
#include "core/record/unreachable.h"
#include "core/study/study.h"

namespace core {

/// A part of the claim's sentence: words between, or something that a person may want to change.
struct ClaimPart {
  const char* names = "";  ///< "bench", "variable", "baseline", "changed", "other", "metric", "cases"; empty: words
  std::string text;
};

/// The claim as the parts of one sentence, so that a window can make each of them a link.
struct Claim {
  Shape shape = Shape::Pair;
  std::string bench;
  std::string variable;
  std::string other;             ///< the variable that it is crossed with; else empty
  std::string baseline;          ///< or the first level, or the first of a chain
  std::string changed;           ///< or the last
  int steps = 1;                 ///< of a chain
  std::string metric;            ///< "average FPS", or "average FPS and render time"
  std::string cases;             ///< "7 cases", or the case's title
  std::string verb = "changes";  ///< or "improves", "worsens" where the outcome is an improvement and settled
  std::string outcome;           ///< "+4.0 % (3.0 to 5.0)" or "… not measured yet"
  std::string verdict;           ///< in words with its marks; empty before there is a result
  bool has_result = false;
  std::vector<std::string> first;  ///< what is said before all else: a case that runs at one level only
  double confidence = 0.95;        ///< of its intervals; named where it is another
  /// What the study says besides, of cases that no sum can hold with the others: "noise over Hall by −3.0 dB: gain".
  std::vector<std::string> also;
  std::string safety;       ///< is it safe to leave the change on; a sentence of its own, empty without a result
  bool is_stopped = false;  ///< a stop stands: the number is no answer yet, and the sentence says so

  /// Everything before the outcome.
  [[nodiscard]] std::vector<ClaimPart> parts() const;
  [[nodiscard]] std::string sentence() const;
  /// How the sentence ends after the outcome: ": gain", or that it is not yet a comparison of one variable.
  [[nodiscard]] std::string ending() const;
};
/// What a headline says of one of its subjects, the suite or a case.
struct Told {
  std::string metric;
  std::string cases;
  std::string verb = Claim().verb;
  std::string outcome;
  std::string verdict;
};

/// Puts what is said of the subjects into a claim: the first as the claim itself, the others beside it.
void fillClaim(Claim& claim, std::vector<Told> told);

/// "From 2K dome to 4K dome the improvement is 1.3 (0.9 to 1.7) percentage points smaller, over the 3 workloads that
/// have both".
[[nodiscard]] std::string trendText(const PresetTrend& trend);

[[nodiscard]] Claim claimOf(const Study& study, const Findings& findings,
                            std::span<const Unreachable> unreachable = {});

/// Of a ladder, a crossing or a chain: `pair` what the headline's two configurations say.
[[nodiscard]] Claim shapeClaimOf(const Study& study, const Findings& pair, const ShapeFindings& findings);

/// Of those cases: "average FPS", "average FPS and render time", "the headline metrics".
[[nodiscard]] std::string metricNames(const Study& study, std::span<const std::size_t> cases);

/// Nobody is told "yet" of a plan that is complete.
[[nodiscard]] std::string notMeasured(const char* what, bool is_plan_complete);

}  // namespace core
