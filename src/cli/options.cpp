#include "cli/options.h"

#include <algorithm>
#include <numeric>

#include <fmt/format.h>

#include "core/values/number_text.h"

namespace cli {
namespace {

// How many letters must be put in, taken out or changed (Levenshtein).
std::size_t distance(const std::string& a, const std::string& b) {
  std::vector<std::size_t> row(b.size() + 1);
  std::iota(row.begin(), row.end(), std::size_t{0});
  for (std::size_t i = 1; i <= a.size(); ++i) {
    std::size_t diagonal = std::exchange(row[0], i);
    for (std::size_t j = 1; j <= b.size(); ++j)
      diagonal = std::exchange(row[j], std::min({row[j] + 1, row[j - 1] + 1, diagonal + (a[i - 1] != b[j - 1])}));
  }
  return row.back();
}

}  // namespace

CLI::Validator numberWithin(double least, double most, const std::string& unit) {
  const std::string range = fmt::format("{:g} to {:g} {}", least, most, unit);
  return {[=](std::string& text) {
            const auto number = core::numberOf(text);
            return number && *number >= least && *number <= most
                       ? std::string()
                       : fmt::format("'{}' is not a number from {}", text, range);
          },
          range};
}

std::string nearestName(const std::string& typed, const std::vector<std::string>& names) {
  const auto nearest = std::min_element(names.begin(), names.end(), [&](const std::string& a, const std::string& b) {
    return distance(typed, a) < distance(typed, b);
  });
  if (nearest == names.end()) return "";
  // Further than a third of the word is another word.
  return 3 * distance(typed, *nearest) <= std::max(typed.size(), nearest->size()) + 1 ? *nearest : "";
}

}  // namespace cli
