#pragma once

#include <cstdint>
#include <string>

#include "core/estimate/effect.h"
#include "core/estimate/verdict.h"
#include "core/values/percent.h"

namespace core {

/// The one place where numbers become text, for window, command line and report alike. UTF-8.

/// Percent with sign and one decimal, two below 1 %: "+4.0 %", "−0.42 %".
[[nodiscard]] std::string percentText(double percent);

/// The interval beside a percentage, with as many decimals: "3.0 to 5.0"; empty without one.
[[nodiscard]] std::string intervalText(const PercentChange& change);
/// "−12.9 to 129.4 %": an interval that is no estimate's.
[[nodiscard]] std::string spanText(const PercentInterval& interval);

/// "+4.0 % (3.0 to 5.0)"; the bare percent without an interval.
[[nodiscard]] std::string changeText(const PercentChange& change);

/// The same without its sign, for words that say the direction: "0.42 % (0.10 to 0.75)" of −0.42 %.
[[nodiscard]] std::string sizeText(const PercentChange& change);

/// A change of percentages, in percentage points without its sign: "3.3 (2.1 to 4.5)".
[[nodiscard]] std::string pointsText(const PercentChange& change);

/// A value with its unit, one decimal for rates, else four significant digits: "71.3 FPS", "12.41 s".
[[nodiscard]] std::string valueText(double value, const std::string& unit);

/// The number alone, as valueText writes it.
[[nodiscard]] std::string numberText(double value, const std::string& unit);

/// A signed difference with its unit, two decimals, of less than a hundredth two digits: "−0.78 ms", "+0.0042 dB".
[[nodiscard]] std::string differenceText(double value, const std::string& unit);

/// The interval of a change in its unit: "−1.50 to −0.90"; empty without one.
[[nodiscard]] std::string unitIntervalText(const UnitChange& change);

/// "−1.20 dB (−1.50 to −0.90)".
[[nodiscard]] std::string unitChangeText(const UnitChange& change, const std::string& unit);

/// The text with its marks behind it: "gain, provisional, if flipping adds nothing".
[[nodiscard]] std::string withMarks(std::string text, const Marks& marks);

/// A verdict in words with its marks.
[[nodiscard]] std::string verdictText(Verdict verdict, const Marks& marks);
/// The same; where the study has a threshold in ms too, with which of the two decided: "gain, judged by 1.28 ms a
/// frame".
[[nodiscard]] std::string verdictText(Verdict verdict, const NoticeThreshold& threshold, const Marks& marks);

/// "p = 0.034"; "p < 0.0001" for less: nobody knows the tail of a distribution that well.
[[nodiscard]] std::string pText(double p);

/// "23,886".
[[nodiscard]] std::string wholeText(std::int64_t count);

/// "1 pass", "4 passes".
[[nodiscard]] std::string countText(int count, const char* one, const char* many);

/// "12 s", "4 min", "1 h 20 min".
[[nodiscard]] std::string durationText(double seconds);

}  // namespace core
