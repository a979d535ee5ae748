#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/record/record.h"
#include "core/study/study.h"

namespace core {

/// How alike the passes of a case came out in one study.
struct CaseRepeatability {
  std::string title;
  int passes = 0;                 ///< that count, at all configurations
  int odd = 0;                    ///< of them, those far from their fellows at the same level
  std::optional<double> pass_sd;  ///< from pass to pass within a visit, of ln of the metric; nothing where it has none
  int pass_df = 0;                ///< its degrees of freedom

  bool operator==(const CaseRepeatability&) const = default;
};

/// Of every case that has a counted pass.
/// Source  the pooled spread within visits, and the odd passes of the findings
[[nodiscard]] std::vector<CaseRepeatability> repeatabilityOf(const Study& study, const Record& record);

/// How repeatable a case is on a bench, by all studies that ran it there.
struct BenchRepeatability {
  std::string title;
  int studies = 0;
  int passes = 0;
  int odd = 0;
  std::optional<double> spread_percent;  ///< from pass to pass within a visit
  int place = 0;                         ///< among the cases with a spread, the steadiest first; 0: it has none
  int of = 0;                            ///< so many have one

  /// "passes differ by 0.42 %, 1 of 38 odd, in 3 studies; the 2nd steadiest of 7 cases here".
  [[nodiscard]] std::string text() const;
};

/// By title; spreads are pooled by their degrees of freedom.
/// Shapes  `all`: one entry for each study and case
[[nodiscard]] std::vector<BenchRepeatability> pooledRepeatability(std::span<const CaseRepeatability> all);

}  // namespace core
