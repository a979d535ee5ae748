#pragma once

#include <algorithm>
#include <chrono>
#include <vector>

namespace probe {

/// Several measurements of one quantity: all of them, so that the spread is seen, with the middle one to quote.
struct Measurements {
  std::vector<double> values;  ///< in the order taken; at least one

  [[nodiscard]] double median() const {
    std::vector<double> sorted = values;
    std::sort(sorted.begin(), sorted.end());
    const std::size_t middle = sorted.size() / 2;
    return sorted.size() % 2 == 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
  }
  [[nodiscard]] double lowest() const { return *std::min_element(values.begin(), values.end()); }
  [[nodiscard]] double highest() const { return *std::max_element(values.begin(), values.end()); }
};

/// Seconds that `work` takes, by the steady clock.
template <class Work>
double secondsOf(Work&& work) {
  const auto begin = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

/// Keeps the optimiser from removing the work behind a value, at no cost.
template <class T>
inline void keep(T& value) {
  asm volatile("" : "+r"(value) : : "memory");
}

}  // namespace probe
