#include "core/estimate/second_opinion.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <map>
#include <numeric>
#include <random>

#include "core/values/median.h"

namespace core {
namespace {

constexpr double kSame = 1e-12;  // statistics that differ by less, for values of size 1, are the same
constexpr std::uint64_t kSeed = 20240229;

constexpr std::size_t kBits = 8;

// What is drawn: so many sets of `of` units, of `chosen` units each; without a number each unit is in by chance.
struct Drawing {
  std::size_t of = 0;
  std::optional<std::size_t> chosen;
  std::size_t draws = 0;
  bool operator==(const Drawing&) const = default;
};

// Which units each set holds, a bit a unit.
struct DrawnSets {
  Drawing drawing;
  std::size_t bytes = 0;  // of a set
  std::vector<std::uint8_t> bits;
};

// Each unit is in by the toss of a coin, eight tosses a byte.
void toss(std::span<std::uint8_t> set, std::size_t units, std::mt19937_64& random) {
  std::uint64_t tosses = 0;
  for (std::size_t i = 0; i < set.size(); ++i) {
    if (i % sizeof(tosses) == 0) tosses = random();
    set[i] = static_cast<std::uint8_t>(tosses >> (i % sizeof(tosses) * kBits));
  }
  const std::size_t in_last = units - (set.size() - 1) * kBits;
  set.back() &= static_cast<std::uint8_t>((1U << in_last) - 1);
}

// Units are put in, or taken out, at random until as many are in as wanted. No unit is preferred, neither here nor in
// the toss before it: each set of that size is as likely as any other. Far fewer steps than a shuffle.
void putRight(std::span<std::uint8_t> set, std::size_t units, std::size_t wanted, std::mt19937_64& random) {
  std::size_t in = 0;
  for (const std::uint8_t bits : set) in += static_cast<std::size_t>(std::popcount(bits));
  while (in != wanted) {
    const auto unit = static_cast<std::size_t>(((random() >> 32) * units) >> 32);
    const auto bit = static_cast<std::uint8_t>(1U << unit % kBits);
    const bool is_in = (set[unit / kBits] & bit) != 0;
    if (is_in == (in < wanted)) continue;
    set[unit / kBits] ^= bit;
    is_in ? --in : ++in;
  }
}

// The sets drawn last are kept: the cases of a study are mostly alike.
const DrawnSets& drawnSets(const Drawing& drawing) {
  thread_local DrawnSets last;
  if (last.drawing == drawing) return last;
  last.drawing = drawing;
  last.bytes = (drawing.of + kBits - 1) / kBits;
  last.bits.assign(last.bytes * drawing.draws, 0);
  std::mt19937_64 random(kSeed);
  for (std::size_t draw = 0; draw < drawing.draws; ++draw) {
    const std::span set = std::span(last.bits).subspan(draw * last.bytes, last.bytes);
    toss(set, drawing.of, random);
    if (drawing.chosen) putRight(set, drawing.of, *drawing.chosen, random);
  }
  return last;
}

// Sums of the values in a set, eight of them at a time.
class SumsOfChosen {
 public:
  explicit SumsOfChosen(std::span<const double> values) : sums_((values.size() + kBits - 1) / kBits) {
    for (std::size_t i = 0; i < values.size(); ++i) {
      auto& eight = sums_[i / kBits];
      const std::size_t bit = std::size_t{1} << i % kBits;
      for (std::size_t lower = 0; lower < bit; ++lower) eight[bit | lower] = eight[lower] + values[i];
    }
  }
  [[nodiscard]] double of(const DrawnSets& sets, std::size_t draw) const {
    const std::uint8_t* const set = &sets.bits[draw * sets.bytes];
    double sum = 0;
    for (std::size_t i = 0; i < sums_.size(); ++i) sum += sums_[i][set[i]];
    return sum;
  }

 private:
  std::vector<std::array<double, std::size_t{1} << kBits>> sums_;
};

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
  [[nodiscard]] double size() const { return largestOf(values_); }
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
    const SumsOfChosen sums(values_);
    const DrawnSets& sets = drawnSets({values_.size(), few_, draws});
    for (std::size_t draw = 0; draw < draws; ++draw) visit(statistic(sums.of(sets, draw)));
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
  [[nodiscard]] double size() const { return largestOf(differences_); }
  [[nodiscard]] double arrangements() const { return std::exp2(static_cast<double>(differences_.size())); }
  template <typename Visit>
  void all(Visit&& visit) const {
    for (std::uint64_t signs = 0; signs < (1ULL << differences_.size()); ++signs) {
      double sum = 0;
      for (std::size_t i = 0; i < differences_.size(); ++i)
        sum += (signs >> i & 1U) != 0 ? -differences_[i] : differences_[i];
      visit(statistic(sum));
    }
  }
  template <typename Visit>
  void drawn(std::size_t draws, Visit&& visit) const {
    const SumsOfChosen sums(differences_);
    const double total = std::accumulate(differences_.begin(), differences_.end(), 0.0);
    const DrawnSets& sets = drawnSets({differences_.size(), std::nullopt, draws});
    for (std::size_t draw = 0; draw < draws; ++draw) visit(statistic(total - 2 * sums.of(sets, draw)));
  }

 private:
  [[nodiscard]] double statistic(double sum) const { return std::abs(sum) / static_cast<double>(differences_.size()); }
  std::span<const double> differences_;
};

template <typename Arrangements>
void takePermutation(SecondOpinion& opinion, const Arrangements& units, std::size_t limit) {
  opinion.arrangements = units.arrangements();
  opinion.is_exact = opinion.arrangements <= static_cast<double>(limit);
  const double same = kSame * std::max(1.0, units.size());
  const double observed = units.observed() - same;
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
  units.all([&](double statistic) { farthest += statistic >= largest - same; });
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

// What an opinion rests on: the units at each level, or one list of differences, and how many arrangements.
struct Grounds {
  std::vector<double> first;
  std::vector<double> second;
  std::size_t limit = 0;
  auto operator<=>(const Grounds&) const = default;
};

SecondOpinion opinionOn(const Grounds& grounds, const Effect& effect) {
  SecondOpinion opinion;
  if (effect.design.estimator == Estimator::Rounds)
    takePermutation(opinion, Signs(grounds.first), grounds.limit);
  else
    takePermutation(opinion, TwoGroups(grounds.first, grounds.second), grounds.limit);
  opinion.shift = shiftOf(effect);
  return opinion;
}

}  // namespace

SecondOpinion secondOpinion(const Effect& effect, double confidence, std::size_t limit) {
  // Opinions are kept: when a person moves the threshold or leaves out a pass, most cases rest on what they rested on.
  constexpr std::size_t kMostKept = 1000;
  thread_local std::map<Grounds, SecondOpinion> kept;
  const bool is_rounds = effect.design.estimator == Estimator::Rounds;
  const Grounds grounds = is_rounds ? Grounds{effect.round_differences, {}, limit}
                                    : Grounds{effect.baseline_units, effect.changed_units, limit};
  auto known = kept.find(grounds);
  if (known == kept.end()) {
    if (kept.size() >= kMostKept) kept.clear();
    known = kept.emplace(grounds, opinionOn(grounds, effect)).first;
  }
  SecondOpinion opinion = known->second;
  opinion.is_too_few_to_tell = opinion.smallest_possible_p > 1 - confidence + kSame;
  return opinion;
}

}  // namespace core
