#include "session/bundle/number_differences.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/values/number_text.h"
#include "core/values/shown_text.h"

namespace session {
namespace {

bool isDigit(char c) { return c >= '0' && c <= '9'; }

/// A text as its numbers and what stands between them.
struct Parts {
  std::vector<std::string_view> numbers;
  std::vector<std::string_view> between;  ///< one more than numbers
};

std::size_t endOfNumber(std::string_view text, std::size_t at) {
  while (at < text.size() && (isDigit(text[at]) || (text[at] == '.' && at + 1 < text.size() && isDigit(text[at + 1]))))
    ++at;
  const std::size_t exponent = at + 1 < text.size() && (text[at + 1] == '-' || text[at + 1] == '+') ? at + 2 : at + 1;
  if (at < text.size() && (text[at] == 'e' || text[at] == 'E') && exponent < text.size() && isDigit(text[exponent])) {
    at = exponent;
    while (at < text.size() && isDigit(text[at])) ++at;
  }
  return at;
}

Parts partsOf(std::string_view text) {
  Parts parts;
  std::size_t from = 0;
  for (std::size_t at = 0; at < text.size();) {
    if (!isDigit(text[at])) {
      ++at;
      continue;
    }
    const std::size_t end = endOfNumber(text, at);
    parts.between.push_back(text.substr(from, at - from));
    parts.numbers.push_back(text.substr(at, end - at));
    from = at = end;
  }
  parts.between.push_back(text.substr(from));
  return parts;
}

bool isSame(std::string_view one, std::string_view other) {
  if (one == other) return true;
  const auto a = core::numberOf(std::string(one));
  const auto b = core::numberOf(std::string(other));
  constexpr double kRounding = 1e-9;
  return a && b && one.size() > 12 && std::abs(*a - *b) <= kRounding * std::max(std::abs(*a), std::abs(*b));
}

std::string excerpt(std::string_view text, std::size_t at) {
  constexpr std::size_t kAround = 30;
  const std::size_t from = at > kAround ? at - kAround : 0;
  return core::shownLine(std::string(text.substr(from, 2 * kAround)));
}

}  // namespace

std::size_t addDifferences(const std::string& name, std::string_view printed, std::string_view recomputed,
                           std::size_t most, std::vector<BundleDifference>& differences) {
  if (printed == recomputed) return partsOf(printed).numbers.size();
  const Parts found = partsOf(printed);
  const Parts expected = partsOf(recomputed);
  const std::size_t count = std::min(found.numbers.size(), expected.numbers.size());
  const auto add = [&](const std::string& where, std::string one, std::string other) {
    if (differences.size() < most) differences.push_back({where, std::move(one), std::move(other)});
  };
  bool is_told = false;
  for (std::size_t i = 0; i < count; ++i) {
    if (isSame(found.numbers[i], expected.numbers[i])) continue;
    const auto at = static_cast<std::size_t>(found.numbers[i].data() - printed.data());
    add(fmt::format("{}, number {}: {}", name, i + 1, excerpt(printed, at)), std::string(found.numbers[i]),
        std::string(expected.numbers[i]));
    is_told = true;
  }
  for (std::size_t i = 0; !is_told && i < std::min(found.between.size(), expected.between.size()); ++i) {
    if (found.between[i] == expected.between[i]) continue;
    const auto [one, other] = std::mismatch(found.between[i].begin(), found.between[i].end(),
                                            expected.between[i].begin(), expected.between[i].end());
    const auto at = static_cast<std::size_t>(one - printed.begin());
    const auto there = static_cast<std::size_t>(other - recomputed.begin());
    add(fmt::format("{}, byte {}", name, at), excerpt(printed, at), excerpt(recomputed, there));
    is_told = true;
  }
  if (!is_told && found.numbers.size() != expected.numbers.size())
    add(name, fmt::format("{} numbers", found.numbers.size()), fmt::format("{} numbers", expected.numbers.size()));
  return count;
}

}  // namespace session
