#include "core/estimate/wording.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace core {
namespace {

constexpr const char* kMinus = "\u2212";

// One number at a time: a true minus sign, and none before digits that are all zero, which show no direction.
std::string withMinus(std::string text) {
  if (text.find_first_of("123456789") == std::string::npos && !text.empty() &&
      (text.front() == '-' || text.front() == '+'))
    text.erase(0, 1);
  if (!text.empty() && text.front() == '-') text.replace(0, 1, kMinus);
  return text;
}

int percentDecimals(double percent) { return std::abs(percent) < 0.995 ? 2 : 1; }

bool isRate(const std::string& unit) { return unit == "FPS" || unit == "fps"; }

}  // namespace

std::string percentText(double percent) {
  return withMinus(fmt::format("{:+.{}f} %", percent, percentDecimals(percent)));
}

std::string intervalText(const PercentChange& change) {
  if (!change.interval) return "";
  const int decimals = percentDecimals(change.value);
  return withMinus(fmt::format("{:.{}f}", change.interval->lo, decimals)) + " to " +
         withMinus(fmt::format("{:.{}f}", change.interval->hi, decimals));
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

std::string numberText(double value, const std::string& unit) {
  constexpr double kMostDigits = 1e15;
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
  return withMinus(fmt::format("{:+.2f}", value)) + (unit.empty() ? "" : " " + unit);
}

std::string unitChangeText(const UnitChange& change, const std::string& unit) {
  std::string text = differenceText(change.value, unit);
  if (change.interval)
    text += fmt::format(" ({} to {})", withMinus(fmt::format("{:.2f}", change.interval->first)),
                        withMinus(fmt::format("{:.2f}", change.interval->second)));
  return text;
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
      return withMarks(words + fmt::format(", judged by {:g} ms a frame", *threshold.ms), marks);
    case ThresholdDecides::NothingCanBeNoticed:
      return withMarks(words + fmt::format(", judged by {:g} ms, no less than a frame lasts", *threshold.ms), marks);
  }
  return words;
}

std::string pText(double p) { return p < 1e-4 ? "p < 0.0001" : fmt::format("p {:.2g}", p); }

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
