#include "core/findings/used_sentence.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/wording.h"

namespace core {
namespace {

constexpr double kMiBPerGiB = 1024;

const char* moreOrLess(double change) { return change > 0 ? "more" : "less"; }
const char* higherOrLower(double change) { return change > 0 ? "higher" : "lower"; }

// "3.1 GiB", "212 MHz": how much it is in the unit, of a ratio from the two levels.
std::string amountOf(const Used& used, double amount) {
  const double size = std::abs(amount);
  if (used.unit == "MiB" && size >= kMiBPerGiB) return fmt::format("{:.1f} GiB", size / kMiBPerGiB);
  if (used.unit == "MiB" || used.unit == "MHz" || used.unit == "rpm") return fmt::format("{:.0f} {}", size, used.unit);
  if (used.unit == "%") return fmt::format("{:.1f} percentage points", size);
  if (used.unit == "times" || used.unit == "errors") return fmt::format("{:.3g}", size);
  return fmt::format("{:.1f} {}", size, used.unit);
}

// The ends of the interval as sizes, the smaller first, in what the amount is in.
std::string spanOf(const Used& used, double a, double b) {
  const double low = std::min(std::abs(a), std::abs(b));
  const double high = std::max(std::abs(a), std::abs(b));
  if (used.unit == "MiB" && std::abs(used.change->to - used.change->from) >= kMiBPerGiB)
    return fmt::format(" ({:.1f} to {:.1f})", low / kMiBPerGiB, high / kMiBPerGiB);
  const bool is_whole = used.unit == "MiB" || used.unit == "MHz" || used.unit == "rpm";
  return is_whole ? fmt::format(" ({:.0f} to {:.0f})", low, high) : fmt::format(" ({:.1f} to {:.1f})", low, high);
}

// In the unit, with its interval: of a ratio as what the baseline makes of it.
std::string inUnit(const Used& used, const std::string& direction) {
  const UsedChange& change = *used.change;
  const auto units = [&](double value) { return change.is_ratio ? change.from * value / 100 : value; };
  const std::string span =
      change.interval ? spanOf(used, units(change.interval->lo), units(change.interval->hi)) : std::string();
  return fmt::format("{} {}{}", amountOf(used, units(change.value)), direction, span);
}

// In percent where that means something.
std::string inPercent(const Used& used, const std::string& direction) {
  const UsedChange& change = *used.change;
  if (!change.is_ratio) return inUnit(used, direction);
  const PercentChange percent{change.value, change.interval};
  const std::string size = sizeText(percent);  // "9.0 % (8.6 to 9.4)"
  const auto bracket = size.find(" (");
  return fmt::format("{} {}{}", size.substr(0, bracket), direction,
                     bracket == std::string::npos ? "" : size.substr(bracket));
}

// "memory" of "memory in use", "graphics memory in use, 0000:03:00.0".
std::string memoryOf(const std::string& channel) {
  constexpr std::string_view kInUse = " in use";
  std::string name = channel;
  if (const auto at = name.find(kInUse); at != std::string::npos) name.erase(at, kInUse.size());
  return name;
}

// Of the energy of a frame the inverse: what the one says the other says too.
bool isFramesAJoule(const Used& used) { return used.role == ChannelRole::Power && used.unit == "1/J"; }

// "spends 7.0 % more energy on a frame (6.5 to 7.5), package" of "energy a frame, package".
std::string energySpent(const Used& used) {
  constexpr std::string_view kEnergy = "energy ";
  const auto comma = used.channel.find(", ");
  const std::string on_what = used.channel.substr(kEnergy.size(), comma - kEnergy.size());
  return fmt::format("spends {}, {}",
                     inPercent(used, fmt::format("{} energy on {}", moreOrLess(used.change->value), on_what)),
                     used.channel.substr(comma + 2));
}

}  // namespace

std::string movedText(const Used& used) {
  const double change = used.change->value;
  if (used.role == ChannelRole::Power && used.unit == "J" && used.channel.find(", ") != std::string::npos)
    return energySpent(used);
  switch (used.role) {
    case ChannelRole::Memory:
      return "uses " + inUnit(used, fmt::format("{} {}", moreOrLess(change), memoryOf(used.channel)));
    case ChannelRole::Power:
      if (isFramesAJoule(used)) break;
      return fmt::format("draws {}, {}", inPercent(used, moreOrLess(change)), used.channel);
    case ChannelRole::Clock:
    case ChannelRole::Temperature:
    case ChannelRole::Fan: return used.channel + " " + inUnit(used, higherOrLower(change));
    default: break;
  }
  return used.channel + " " + inPercent(used, higherOrLower(change));
}

std::string meanwhileText(const CaseFinding& finding) {
  if (finding.doesGain() && finding.effect && finding.effect->is_log)
    return ", for an improvement of " + sizeText(finding.improvement);
  if (finding.doesLose() && finding.effect && finding.effect->is_log)
    return ", and loses " + sizeText(finding.improvement);
  if (finding.verdict == Verdict::NoDifferenceThatMatters && !finding.marks.not_after_adjustment_for)
    return ", and is no better";
  return "";
}

std::vector<std::string> usedSentences(const std::vector<Used>& used, const Study& study, const Findings& findings) {
  std::vector<std::string> sentences;
  for (const CaseFinding& finding : findings.cases) {
    std::vector<std::string> moved;
    for (const Used& one : used)
      if (one.case_index == finding.case_index && !one.moved.empty() && !isFramesAJoule(one))
        moved.push_back(one.moved);
    if (!moved.empty())
      sentences.push_back(fmt::format("{}: {}{}", study.cases[finding.case_index].title(), fmt::join(moved, "; "),
                                      meanwhileText(finding)));
  }
  return sentences;
}

std::string usedSummary(const std::vector<Used>& used) {
  const auto told = std::count_if(used.begin(), used.end(), [](const Used& one) { return !one.moved.empty(); });
  const auto alone = std::count_if(used.begin(), used.end(), [](const Used& one) { return !one.change; });
  std::string text = told == 0 ? fmt::format("None of {} channels surely moved.", used.size())
                               : fmt::format("{} of {} channels surely moved.", told, used.size());
  if (alone > 0) text += fmt::format(" {} could not be compared: not read at both levels.", alone);
  return text;
}

std::string usedTitle(const Used& used) { return used.unit.empty() ? used.channel : used.channel + ", " + used.unit; }

std::string usedChangeText(const Used& used) {
  if (!used.change) return "";
  const UsedChange& change = *used.change;
  if (change.is_ratio) return changeText({change.value, change.interval});
  const std::string unit = used.unit == "%" ? "points" : used.unit;
  UnitChange in_unit{change.value, {}};
  if (change.interval) in_unit.interval = {change.interval->lo, change.interval->hi};
  return unitChangeText(in_unit, unit);
}

std::string usedText(const Used& used, const Study& study) {
  std::string text;
  for (const UsedLevel& level : used.at)
    if (level.configuration == used.pair.from || level.configuration == used.pair.to)
      text += fmt::format("{}{} at {}", text.empty() ? "" : ", ", valueText(level.median, used.unit),
                          study.nameOf(level.configuration));
  const std::string change = usedChangeText(used);
  return change.empty() ? text : text + ": " + change;
}

}  // namespace core
