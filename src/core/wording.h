#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string>

#include "core/findings.h"
#include "core/schedule.h"
#include "core/study.h"
#include "core/unreachable.h"

namespace core {

/// The one place where numbers become text, for window, command line and report alike. UTF-8.

/// Percent with sign and one decimal, two below 1 %: "+4.0 %", "−0.42 %".
[[nodiscard]] std::string percentText(double percent);

/// The interval beside a percentage, with as many decimals: "3.0 to 5.0"; empty without one.
[[nodiscard]] std::string intervalText(const PercentChange& change);

/// "+4.0 % (3.0 to 5.0)"; the bare percent without an interval.
[[nodiscard]] std::string changeText(const PercentChange& change);

/// A value with its unit, one decimal for rates, else four significant digits: "71.3 FPS", "12.41 s".
[[nodiscard]] std::string valueText(double value, const std::string& unit);

/// The number alone, as valueText writes it.
[[nodiscard]] std::string numberText(double value, const std::string& unit);

/// A signed difference with its unit, two decimals for ms and FPS: "−0.78 ms".
[[nodiscard]] std::string differenceText(double value, const std::string& unit);

/// "−1.20 dB (−1.50 to −0.90)".
[[nodiscard]] std::string unitChangeText(const UnitChange& change, const std::string& unit);

/// "gain, so far, if flipping adds nothing".
[[nodiscard]] std::string verdictText(Verdict verdict, const Marks& marks);

/// "p 0.034"; "p < 0.0001" for less: nobody knows the tail of a distribution that well.
[[nodiscard]] std::string pText(double p);

/// "1 pass", "4 passes".
[[nodiscard]] std::string countText(int count, const char* one, const char* many);

/// "12 s", "4 min", "1 h 20 min".
[[nodiscard]] std::string durationText(double seconds);

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

/// "visit 3, pass 2"; a warm-up is called one. `slot` as the schedule has it.
[[nodiscard]] std::string passName(const Slot& slot);

[[nodiscard]] Claim claimOf(const Study& study, const Findings& findings,
                            std::span<const Unreachable> unreachable = {});

}  // namespace core
