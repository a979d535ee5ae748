#pragma once

#include <algorithm>
#include <cstddef>
#include <vector>

namespace core {

/// Several measurements of one quantity: all of them, so that the spread is seen, with the middle one to quote.
struct Measurements {
  std::vector<double> values;  ///< in the order taken; at least one

  [[nodiscard]] double median() const {
    const std::vector<double> all = sorted();
    const std::size_t middle = all.size() / 2;
    return all.size() % 2 == 1 ? all[middle] : (all[middle - 1] + all[middle]) / 2;
  }
  [[nodiscard]] double lowest() const { return *std::min_element(values.begin(), values.end()); }
  [[nodiscard]] double highest() const { return *std::max_element(values.begin(), values.end()); }

  /// Lowest and highest once a single stray at either end is set aside, from five measurements on.
  [[nodiscard]] double usualLow() const { return sorted()[values.size() >= 5 ? 1 : 0]; }
  [[nodiscard]] double usualHigh() const { return sorted()[values.size() - (values.size() >= 5 ? 2 : 1)]; }

 private:
  [[nodiscard]] std::vector<double> sorted() const {
    std::vector<double> all = values;
    std::sort(all.begin(), all.end());
    return all;
  }
};

}  // namespace core
