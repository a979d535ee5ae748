#pragma once

#include <cstddef>
#include <cstdint>
#include <limits>
#include <map>
#include <span>
#include <vector>

namespace core {

/// The smallest and the largest of some numbers.
struct Extremes {
  double lowest = 0;
  double highest = 0;
  /// Were all of the numbers finite and above 0?
  [[nodiscard]] bool arePositive() const {
    return lowest > 0 && highest > 0 && highest <= std::numeric_limits<double>::max();
  }
};

/// Of numbers above 0; where others are among them, arePositive() says no. Shapes  at least one value
[[nodiscard]] Extremes extremesOf(std::span<const double> values);

/// Quantiles and sums of the largest of many positive numbers, without sorting them all. Values are counted in bins as
/// fine as a few tenths of a percent; only bins that an answer lies in are looked into. First say what is wanted, then
/// ask for it. Shapes  values > 0, finite, at least one; they outlive this Cost    two passes; memory for the wanted
/// bins only
class OrderStatistics {
 public:
  /// `extremes`: those of the values.
  OrderStatistics(std::span<const double> values, Extremes extremes);

  void wantRank(std::size_t rank);
  void wantQuantile(double q);
  void wantLargest(std::size_t count) { wantRank(values_.size() - count); }
  /// The largest values that together come to `sum`.
  void wantFilling(double sum);
  /// Looks into the wanted bins; before any question.
  void collect();

  /// The value of a rank from 0, ascending.
  [[nodiscard]] double at(std::size_t rank) const;
  /// "Type 7": linear between ranks at (n - 1) q.
  [[nodiscard]] double quantile(double q) const;
  [[nodiscard]] double sumOfLargest(std::size_t count) const;
  /// How few of the largest values come to `sum`; all of them where they never do.
  [[nodiscard]] std::size_t largestFilling(double sum) const;

 private:
  [[nodiscard]] std::size_t binOf(double value) const;
  [[nodiscard]] std::size_t binOfRank(std::size_t rank) const;
  [[nodiscard]] std::size_t binFilling(double sum) const;

  std::span<const double> values_;
  std::uint64_t lowest_ = 0;                           ///< the bits of the first bin
  std::vector<std::size_t> before_;                    ///< of each bin: values in lower ones
  std::vector<double> sums_above_;                     ///< of each bin: sum of the values in higher ones
  std::map<std::size_t, std::vector<double>> wanted_;  ///< by bin, ascending
};

}  // namespace core
