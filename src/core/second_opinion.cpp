#include "core/second_opinion.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <random>

#include "core/median.h"

namespace core {
namespace {

constexpr double kSame = 1e-12;  // statistics that differ by less are the same
constexpr std::uint64_t kSeed = 20240229;

// The statistic of every arrangement, or of as many drawn ones, through `visit`.
// Two groups: which `few` of the values belong to the smaller one.
class TwoGroups {
 public:
  TwoGroups(std::span<const double> baseline, std::span<const double> changed) {
    values_.assign(baseline.begin(), baseline.end());
    values_.insert(values_.end(), changed.begin(), changed.end());
    // Around their mean: the statistic is then one group's sum, scaled, without loss of digits.
    const double mean = meanOf(values_);
    for (double& value : values_) value -= mean;
    const bool is_baseline_smaller = baseline.size() <= changed.size();
    few_ = std::min(baseline.size(), changed.size());
    const auto n = static_cast<double>(values_.size());
    scale_ = n / (static_cast<double>(few_) * (n - static_cast<double>(few_)));
    observed_ = statistic(is_baseline_smaller ? std::accumulate(values_.begin(), values_.begin() + few(), 0.0)
                                              : std::accumulate(values_.end() - few(), values_.end(), 0.0));
  }
  [[nodiscard]] double observed() const { return observed_; }
  [[nodiscard]] double arrangements() const {
    double count = 1;
    for (std::size_t i = 1; i <= few_; ++i)
      count = std::round(count * static_cast<double>(values_.size() - few_ + i) / static_cast<double>(i));
    return count;
  }
  template <typename Visit>
  void all(Visit&& visit) const {
    choose(0, few_, 0, visit);
  }
  template <typename Visit>
  void drawn(std::size_t draws, Visit&& visit) const {
    std::mt19937_64 random(kSeed);
    std::vector<double> values = values_;
    for (std::size_t draw = 0; draw < draws; ++draw) {
      double sum = 0;
      for (std::size_t i = 0; i < few_; ++i) {  // the first steps of a shuffle
        const std::uint64_t rest = values.size() - i;
        const auto j = i + static_cast<std::size_t>(((random() >> 32) * rest) >> 32);
        std::swap(values[i], values[j]);
        sum += values[i];
      }
      visit(statistic(sum));
    }
  }

 private:
  [[nodiscard]] std::ptrdiff_t few() const { return static_cast<std::ptrdiff_t>(few_); }
  [[nodiscard]] double statistic(double sum) const { return std::abs(sum) * scale_; }
  template <typename Visit>
  void choose(std::size_t from, std::size_t left, double sum, Visit&& visit) const {
    if (left == 0) return visit(statistic(sum));
    for (std::size_t i = from; i + left <= values_.size(); ++i) choose(i + 1, left - 1, sum + values_[i], visit);
  }

  std::vector<double> values_;
  std::size_t few_ = 0;
  double scale_ = 1;
  double observed_ = 0;
};

// Rounds: which of the differences change their sign.
class Signs {
 public:
  explicit Signs(std::span<const double> differences) : differences_(differences) {}
  [[nodiscard]] double observed() const { return std::abs(meanOf(differences_)); }
  [[nodiscard]] double arrangements() const { return std::exp2(static_cast<double>(differences_.size())); }
  template <typename Visit>
  void all(Visit&& visit) const {
    for (std::uint64_t signs = 0; signs < (1ULL << differences_.size()); ++signs) visit(statistic({&signs, 1}));
  }
  template <typename Visit>
  void drawn(std::size_t draws, Visit&& visit) const {
    std::mt19937_64 random(kSeed);
    std::vector<std::uint64_t> signs(differences_.size() / kBits + 1);
    for (std::size_t draw = 0; draw < draws; ++draw) {
      for (std::uint64_t& word : signs) word = random();
      visit(statistic(signs));
    }
  }

 private:
  static constexpr std::size_t kBits = 64;
  [[nodiscard]] double statistic(std::span<const std::uint64_t> signs) const {
    double sum = 0;
    for (std::size_t i = 0; i < differences_.size(); ++i)
      sum += (signs[i / kBits] >> (i % kBits) & 1U) != 0 ? -differences_[i] : differences_[i];
    return std::abs(sum) / static_cast<double>(differences_.size());
  }
  std::span<const double> differences_;
};

template <typename Arrangements>
void takePermutation(SecondOpinion& opinion, const Arrangements& units, std::size_t limit) {
  opinion.arrangements = units.arrangements();
  opinion.is_exact = opinion.arrangements <= static_cast<double>(limit);
  const double observed = units.observed() - kSame;
  std::size_t extreme = 0;
  if (!opinion.is_exact) {
    units.drawn(limit, [&](double statistic) { extreme += statistic >= observed; });
    const auto draws = static_cast<double>(limit);
    opinion.p = (1 + static_cast<double>(extreme)) / (1 + draws);
    opinion.smallest_possible_p = 1 / (1 + draws);
    return;
  }
  double largest = 0;
  units.all([&](double statistic) {
    extreme += statistic >= observed;
    largest = std::max(largest, statistic);
  });
  std::size_t farthest = 0;
  units.all([&](double statistic) { farthest += statistic >= largest - kSame; });
  opinion.as_extreme = extreme;
  opinion.p = static_cast<double>(extreme) / opinion.arrangements;
  opinion.smallest_possible_p = static_cast<double>(farthest) / opinion.arrangements;
}

// Of all pairs between the levels; for rounds of the Walsh averages.
double shiftOf(const Effect& effect) {
  std::vector<double> all;
  const auto& rounds = effect.round_differences;
  for (std::size_t i = 0; i < rounds.size(); ++i)
    for (std::size_t j = i; j < rounds.size(); ++j) all.push_back((rounds[i] + rounds[j]) / 2);
  if (rounds.empty())
    for (const double before : effect.baseline_units)
      for (const double after : effect.changed_units) all.push_back(after - before);
  return medianOf(std::move(all));
}

}  // namespace

SecondOpinion secondOpinion(const Effect& effect, double confidence, std::size_t limit) {
  SecondOpinion opinion;
  if (effect.design.estimator == Estimator::Rounds)
    takePermutation(opinion, Signs(effect.round_differences), limit);
  else
    takePermutation(opinion, TwoGroups(effect.baseline_units, effect.changed_units), limit);
  opinion.is_too_few_to_tell = opinion.smallest_possible_p > 1 - confidence + kSame;
  opinion.shift = shiftOf(effect);
  return opinion;
}

}  // namespace core
