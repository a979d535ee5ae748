#include "core/frames/order_statistics.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace core {
namespace {

// Sign, exponent and the first bits of the fraction: positive numbers keep their order.
constexpr int kShift = 44;

std::uint64_t bitsOf(double value) { return std::bit_cast<std::uint64_t>(value) >> kShift; }

}  // namespace

// Positive numbers are in order as their bits are, and whole numbers compare fast. As bits, a number below 0 and what
// is no number are larger than all others.
Extremes extremesOf(std::span<const double> values) {
  std::uint64_t lowest = std::bit_cast<std::uint64_t>(values.front());
  std::uint64_t highest = lowest;
  for (const double value : values) {
    lowest = std::min(lowest, std::bit_cast<std::uint64_t>(value));
    highest = std::max(highest, std::bit_cast<std::uint64_t>(value));
  }
  return {std::bit_cast<double>(lowest), std::bit_cast<double>(highest)};
}

OrderStatistics::OrderStatistics(std::span<const double> values, Extremes extremes)
    : values_(values), lowest_(bitsOf(extremes.lowest)) {
  const std::size_t bins = bitsOf(extremes.highest) - lowest_ + 1;
  std::vector<std::size_t> counts(bins, 0);
  std::vector<double> sums(bins, 0);
  for (const double value : values) {
    const std::size_t bin = binOf(value);
    ++counts[bin];
    sums[bin] += value;
  }
  before_.resize(bins);
  sums_above_.resize(bins);
  std::size_t count = 0;
  for (std::size_t bin = 0; bin < bins; ++bin) {
    before_[bin] = count;
    count += counts[bin];
  }
  double sum = 0;
  for (std::size_t bin = bins; bin-- > 0;) {
    sums_above_[bin] = sum;
    sum += sums[bin];
  }
}

std::size_t OrderStatistics::binOf(double value) const { return bitsOf(value) - lowest_; }

std::size_t OrderStatistics::binOfRank(std::size_t rank) const {
  return static_cast<std::size_t>(std::upper_bound(before_.begin(), before_.end(), rank) - before_.begin()) - 1;
}

// Sums fall with the bins: the last bin above which there is less than the sum.
std::size_t OrderStatistics::binFilling(double sum) const {
  const auto found =
      std::partition_point(sums_above_.begin(), sums_above_.end(), [&](double above) { return above >= sum; });
  return std::min<std::size_t>(static_cast<std::size_t>(found - sums_above_.begin()), sums_above_.size() - 1);
}

void OrderStatistics::wantRank(std::size_t rank) { wanted_[binOfRank(std::min(rank, values_.size() - 1))]; }

void OrderStatistics::wantQuantile(double q) {
  const auto below = static_cast<std::size_t>(std::floor(static_cast<double>(values_.size() - 1) * q));
  wantRank(below);
  wantRank(below + 1);
}

void OrderStatistics::wantFilling(double sum) { wanted_[binFilling(sum)]; }

void OrderStatistics::collect() {
  std::vector<std::vector<double>*> of_bin(before_.size(), nullptr);
  for (auto& [bin, found] : wanted_) of_bin[bin] = &found;
  for (const double value : values_)
    if (auto* found = of_bin[binOf(value)]) found->push_back(value);
  for (auto& [bin, found] : wanted_) std::sort(found.begin(), found.end());
}

double OrderStatistics::at(std::size_t rank) const {
  const std::size_t bin = binOfRank(rank);
  return wanted_.at(bin)[rank - before_[bin]];
}

double OrderStatistics::quantile(double q) const {
  const double h = static_cast<double>(values_.size() - 1) * q;
  const auto below = static_cast<std::size_t>(std::floor(h));
  if (below + 1 >= values_.size()) return at(values_.size() - 1);
  return at(below) + (h - static_cast<double>(below)) * (at(below + 1) - at(below));
}

double OrderStatistics::sumOfLargest(std::size_t count) const {
  const std::size_t rank = values_.size() - count;
  const std::size_t bin = binOfRank(rank);
  const std::vector<double>& found = wanted_.at(bin);
  double sum = sums_above_[bin];
  for (std::size_t i = found.size(); i-- > rank - before_[bin];) sum += found[i];
  return sum;
}

std::size_t OrderStatistics::largestFilling(double sum) const {
  const std::size_t bin = binFilling(sum);
  const std::vector<double>& found = wanted_.at(bin);
  double reached = sums_above_[bin];
  std::size_t taken = 0;
  while (taken < found.size() && reached < sum) reached += found[found.size() - ++taken];
  const std::size_t above = values_.size() - before_[bin] - found.size();
  return std::max<std::size_t>(1, above + taken);
}

}  // namespace core
