#include "core/values/plausibility.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <vector>

#include <fmt/format.h>

#include "core/values/median.h"
#include "core/values/number_text.h"

namespace core {
namespace {

// A number with two neighbouring digits changed places, if that brings it near `target`.
std::string swappedNear(double value, double target) {
  constexpr double kNear = 0.02;
  const std::string text = fmt::format("{}", value);
  for (std::size_t i = 0; i + 1 < text.size(); ++i) {
    std::string swapped = text;
    std::size_t other = i + 1;
    if (text[other] == '.' && other + 1 < text.size()) ++other;  // across the decimal point
    std::swap(swapped[i], swapped[other]);
    if (swapped == text || swapped[i] == '.' || swapped[other] == '.') continue;
    const auto number = numberOf(swapped);
    if (number && std::abs(*number / target - 1) < kNear) return swapped;
  }
  return {};
}

}  // namespace

std::string whyImplausible(double value, std::span<const double> same_level, std::span<const double> other_level) {
  // Two levels hardly differ threefold, and one slip must not make the others look like slips: all of them tell where
  // the decimal point belongs.
  std::vector<double> all(same_level.begin(), same_level.end());
  all.insert(all.end(), other_level.begin(), other_level.end());
  all.push_back(value);
  constexpr std::size_t kTelling = 3;
  constexpr double kTenfold = 3;
  const double of_all = medianOf(all);
  const double times = of_all != 0 ? value / of_all : 1;
  if (all.size() >= kTelling && (times > kTenfold || times < 1 / kTenfold))
    return fmt::format("{:g} is far from the other results, about {:g}: the decimal point may be out of its place",
                       value, of_all);
  if (!same_level.empty()) {
    const double middle = medianOf({same_level.begin(), same_level.end()});
    constexpr double kFar = 0.05;  // nearer than that no slip of a digit is looked for
    if (middle != 0 && std::abs(value / middle - 1) > kFar)
      if (const std::string meant = swappedNear(value, middle); !meant.empty())
        return fmt::format("{:g} would be near the others as {}: two digits may be swapped", value, meant);
  }
  // Three significant digits or more, alike at both levels: read off the wrong screen, more likely than chance.
  const bool is_same = std::find(other_level.begin(), other_level.end(), value) != other_level.end();
  const std::string digits = fmt::format("{}", std::abs(value));
  const auto significant = std::count_if(digits.begin(), digits.end(), [](char c) { return c >= '0' && c <= '9'; });
  if (is_same && significant >= 4)
    return fmt::format("{:g} was typed at the other level too: it may be from the wrong screen", value);
  return {};
}

}  // namespace core
