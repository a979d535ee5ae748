#pragma once

#include <span>
#include <string>

#include "core/findings/findings.h"
#include "core/record/unreachable.h"
#include "core/study/study.h"

namespace core {

/// The claim as the parts of one sentence, so that a window can make each of them a link.
struct Claim {
  std::string bench;
  std::string variable;
  std::string baseline;
  std::string changed;
  std::string metric;   ///< "average FPS", or "average FPS and render time"
  std::string cases;    ///< "7 cases", or the case's title
  std::string outcome;  ///< "+4.0 % (3.0 to 5.0)" or "… not measured yet"
  std::string verdict;  ///< in words with its marks; empty before there is a result
  bool has_result = false;
  std::string safety;       ///< is it safe to leave the change on; a sentence of its own, empty without a result
  bool is_stopped = false;  ///< a stop stands: the number is no answer yet, and the sentence says so

  [[nodiscard]] std::string sentence() const;
  /// How the sentence ends after the outcome: ": gain", or that it is not yet a comparison of one variable.
  [[nodiscard]] std::string ending() const;
};
/// "Safe to leave on: no case loses as much as matters", "Not safe to leave on: X loses 9.6 %", or that it is open.
/// Empty without a result.
[[nodiscard]] std::string safetyText(const Study& study, const Findings& findings);

/// "The improvement shrinks by 1.3 % (0.9 to 1.7) from 2K dome to 4K dome".
[[nodiscard]] std::string trendText(const PresetTrend& trend);

[[nodiscard]] Claim claimOf(const Study& study, const Findings& findings,
                            std::span<const Unreachable> unreachable = {});

}  // namespace core
