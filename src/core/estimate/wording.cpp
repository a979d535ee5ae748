#include "core/estimate/wording.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace core {
namespace {

constexpr const char* kMinus = "\u2212";

// "12,345.6" of "12345.6"; what is written with a power of ten stays.
std::string grouped(std::string text) {
  const std::size_t first = text.find_first_of("0123456789");
  if (first == std::string::npos || text.find('e') != std::string::npos) return text;
  const std::size_t point = std::min(text.find('.'), text.size());
  for (std::size_t at = point; at > first + 3; at -= 3) text.insert(at - 3, 1, ',');
  return text;
}

// One number at a time: a true minus sign, and none before digits that are all zero, which show no direction.
std::string withMinus(std::string text) {
  text = grouped(std::move(text));
  if (text.find_first_of("123456789") == std::string::npos && !text.empty() &&
      (text.front() == '-' || text.front() == '+'))
    text.erase(0, 1);
  if (!text.empty() && text.front() == '-') text.replace(0, 1, kMinus);
  return text;
}

// What is larger than any number is said as such.
std::string fixed(double value, int decimals) {
  if (std::isinf(value)) return value < 0 ? std::string(kMinus) + "∞" : "∞";
  return withMinus(fmt::format("{:.{}f}", value, decimals));
}
std::string signedFixed(double value, int decimals) {
  if (std::isinf(value)) return value < 0 ? std::string(kMinus) + "∞" : "+∞";
  return withMinus(fmt::format("{:+.{}f}", value, decimals));
}

int percentDecimals(double percent) { return std::abs(percent) < 0.995 ? 2 : 1; }

// Two, and so many more that a difference which is not 0 does not read as one: 0.004 has two digits of its own.
int differenceDecimals(double value) {
  constexpr double kSeenInTwo = 0.00995;
  if (value == 0 || !std::isfinite(value) || std::abs(value) >= kSeenInTwo) return 2;
  return std::min(9, 1 - static_cast<int>(std::floor(std::log10(std::abs(value)))));
}

bool isRate(const std::string& unit) { return unit == "FPS" || unit == "fps"; }

}  // namespace

std::string percentText(double percent) { return signedFixed(percent, percentDecimals(percent)) + " %"; }

std::string intervalText(const PercentChange& change) {
  if (!change.interval) return "";
  const int decimals = percentDecimals(change.value);
  return fixed(change.interval->lo, decimals) + " to " + fixed(change.interval->hi, decimals);
}

std::string spanText(const PercentInterval& interval) {
  return intervalText({(interval.lo + interval.hi) / 2, interval}) + "\u00A0%";
}

std::string changeText(const PercentChange& change) {
  const std::string interval = intervalText(change);
  return interval.empty() ? percentText(change.value) : percentText(change.value) + " (" + interval + ")";
}

std::string sizeText(const PercentChange& change) {
  PercentChange size{std::abs(change.value), change.interval};
  if (size.interval && change.value < 0) size.interval = PercentInterval{-change.interval->hi, -change.interval->lo};
  std::string text = changeText(size);
  return text.starts_with("+") ? text.substr(1) : text;
}

std::string pointsText(const PercentChange& change) {
  std::string text = sizeText(change);
  if (const auto sign = text.find(" %"); sign != std::string::npos) text.erase(sign, 2);
  return text;
}

std::string numberText(double value, const std::string& unit) {
  constexpr double kMostDigits = 1e15;
  if (std::isinf(value)) return fixed(value, 0);
  if (std::abs(value) >= kMostDigits) return withMinus(fmt::format("{:.4g}", value));
  if (isRate(unit) || unit == "%") return withMinus(fmt::format("{:.1f}", value));
  if (unit == "ms") return withMinus(fmt::format("{:.2f}", value));
  const int decimals = value == 0 ? 1 : std::clamp(3 - static_cast<int>(std::floor(std::log10(std::abs(value)))), 0, 6);
  return withMinus(fmt::format("{:.{}f}", value, decimals));
}

std::string valueText(double value, const std::string& unit) {
  return unit.empty() ? numberText(value, unit) : numberText(value, unit) + " " + unit;
}

std::string differenceText(double value, const std::string& unit) {
  return signedFixed(value, differenceDecimals(value)) + (unit.empty() ? "" : " " + unit);
}

std::string unitIntervalText(const UnitChange& change) {
  if (!change.interval) return "";
  const int decimals = differenceDecimals(change.value);
  return fixed(change.interval->first, decimals) + " to " + fixed(change.interval->second, decimals);
}

std::string unitChangeText(const UnitChange& change, const std::string& unit) {
  const std::string interval = unitIntervalText(change);
  const std::string text = differenceText(change.value, unit);
  return interval.empty() ? text : text + " (" + interval + ")";
}

std::string withMarks(std::string text, const Marks& marks) {
  for (const std::string& mark : marks.words()) text += ", " + mark;
  return text;
}

std::string verdictText(Verdict verdict, const Marks& marks) { return withMarks(verdictName(verdict), marks); }

std::string verdictText(Verdict verdict, const NoticeThreshold& threshold, const Marks& marks) {
  if (!threshold.ms) return verdictText(verdict, marks);
  const std::string words = verdictName(verdict);
  switch (threshold.decides) {
    case ThresholdDecides::Percent:
      return withMarks(words + fmt::format(", judged by {:g} %", threshold.gain_percent), marks);
    case ThresholdDecides::Milliseconds:
      return withMarks(words + fmt::format(", judged by {:g} ms per frame", *threshold.ms), marks);
    case ThresholdDecides::Mixed:
      return withMarks(words + fmt::format(", judged by {:g} ms per frame where there are frames", *threshold.ms),
                       marks);
    case ThresholdDecides::NothingCanBeNoticed:
      return withMarks(words + fmt::format(", judged by {:g} ms, no less than a frame lasts", *threshold.ms), marks);
  }
  return words;
}

std::string pText(double p) { return p < 1e-4 ? "p < 0.0001" : p > 0.995 ? "p = 1.00" : fmt::format("p = {:.2g}", p); }

std::string wholeText(std::int64_t count) { return withMinus(std::to_string(count)); }

std::string countText(int count, const char* one, const char* many) {
  return fmt::format("{} {}", count, count == 1 ? one : many);
}

std::string durationText(double seconds) {
  const auto whole = static_cast<std::int64_t>(std::llround(std::max(0.0, seconds)));
  if (whole < 90) return fmt::format("{} s", whole);
  const std::int64_t minutes = (whole + 30) / 60;
  if (minutes < 60) return fmt::format("{} min", minutes);
  const auto hours = fmt::format("{} h", minutes / 60);
  return minutes % 60 == 0 ? hours : fmt::format("{} {} min", hours, minutes % 60);
}

}  // namespace core
