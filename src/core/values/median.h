#pragma once

#include <algorithm>
#include <vector>

namespace core {

/// The middle value, or the mean of the middle two. `values` not empty.
[[nodiscard]] inline double medianOf(std::vector<double> values) {
  const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  if (values.size() % 2 == 1) return *middle;
  return (*middle + *std::max_element(values.begin(), middle)) / 2;
}

}  // namespace core
