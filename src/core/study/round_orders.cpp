#include <algorithm>
#include <cstdint>
#include <random>

#include <boost/random/uniform_int_distribution.hpp>

#include "core/study/study.h"

namespace core {
namespace {

// Boost's distribution: the standard library's differs from one implementation to the next.
class Draw {
 public:
  explicit Draw(int seed) : engine_(static_cast<std::uint64_t>(seed)) {}
  int below(int n) { return boost::random::uniform_int_distribution<int>(0, n - 1)(engine_); }
  template <class T>
  void shuffle(std::vector<T>& list) {
    for (int i = static_cast<int>(list.size()) - 1; i > 0; --i)
      std::swap(list[static_cast<std::size_t>(i)], list[static_cast<std::size_t>(below(i + 1))]);
  }

 private:
  std::mt19937_64 engine_;
};

std::vector<RoundOrder> roundsOfTwo(int rounds, Draw& draw) {
  std::vector<ConfigurationId> first;
  for (int i = 0; i < rounds / 2; ++i) first.insert(first.end(), {ConfigurationId::Baseline, ConfigurationId::Changed});
  if (rounds % 2 == 1) first.push_back(draw.below(2) == 0 ? ConfigurationId::Baseline : ConfigurationId::Changed);
  draw.shuffle(first);
  return pairRounds(first);
}

// Every configuration once in every place, and each directly after every other one; an odd number needs the mirrored
// rows as well for that.
std::vector<RoundOrder> balancedSquare(std::size_t count) {
  std::vector<std::size_t> first{0};
  for (std::size_t low = 1, high = count - 1; first.size() < count;) {
    first.push_back(low++);
    if (first.size() < count) first.push_back(high--);
  }
  std::vector<RoundOrder> rows;
  for (std::size_t row = 0; row < count; ++row) {
    RoundOrder order;
    for (const std::size_t place : first) order.push_back(configurationAt((place + row) % count));
    rows.push_back(order);
    if (count % 2 == 0) continue;
    std::reverse(order.begin(), order.end());
    rows.push_back(order);
  }
  return rows;
}

// A round that begins where the one before ended would need a flip to the same configuration: where any other row is
// left, that comes first.
RoundOrder takeNext(std::vector<RoundOrder>& left, const std::vector<RoundOrder>& before) {
  const auto fits = std::find_if(left.begin(), left.end(), [&](const RoundOrder& row) {
    return before.empty() || row.front() != before.back().back();
  });
  const auto chosen = fits == left.end() ? left.begin() : fits;
  RoundOrder row = *chosen;
  left.erase(chosen);
  return row;
}

// One list has no order to be drawn.
std::vector<RoundOrder> ordersOf(const RoundOrder& block, int rounds, int seed) {
  if (block.size() == 1) return std::vector<RoundOrder>(static_cast<std::size_t>(rounds), block);
  std::vector<RoundOrder> orders = drawRounds(block.size(), rounds, seed);
  for (RoundOrder& order : orders)
    for (ConfigurationId& one : order) one = block[placeOf(one)];
  return orders;
}

}  // namespace

std::vector<RoundOrder> pairRounds(const std::vector<ConfigurationId>& first) {
  std::vector<RoundOrder> rounds;
  for (const ConfigurationId one : first)
    rounds.push_back({one, one == ConfigurationId::Baseline ? ConfigurationId::Changed : ConfigurationId::Baseline});
  return rounds;
}

std::vector<RoundOrder> drawRounds(std::size_t configurations, int rounds, int seed) {
  Draw draw(seed);
  if (configurations == 2) return roundsOfTwo(rounds, draw);
  if (configurations < 2) return {};
  std::vector<RoundOrder> order;
  std::vector<ConfigurationId> names;
  for (std::size_t place = 0; place < configurations; ++place) names.push_back(configurationAt(place));
  draw.shuffle(names);  // which configuration stands for which place of the square
  std::vector<RoundOrder> left;
  while (static_cast<int>(order.size()) < rounds) {
    if (left.empty()) {
      left = balancedSquare(configurations);
      for (RoundOrder& row : left)
        for (ConfigurationId& one : row) one = names[placeOf(one)];
      draw.shuffle(left);
    }
    order.push_back(takeNext(left, order));
  }
  return order;
}

std::vector<RoundOrder> drawBlockedRounds(const std::vector<RoundOrder>& blocks, int rounds, int seed) {
  std::vector<std::vector<RoundOrder>> within;
  for (std::size_t i = 0; i < blocks.size(); ++i)
    within.push_back(ordersOf(blocks[i], rounds, static_cast<int>(static_cast<unsigned>(seed) + 1U + i)));
  std::vector<RoundOrder> drawn;
  for (const RoundOrder& order : drawRounds(blocks.size(), rounds, seed)) {
    const std::size_t number = drawn.size();
    RoundOrder round;
    for (const ConfigurationId block : order) {
      RoundOrder next = within[placeOf(block)][number];
      // Where the round before ended in this block, the same configuration comes first: it needs a flip of its own, of
      // every variable, so that no two rounds share what one flip does.
      if (round.empty() && number > 0)
        if (const auto same = std::find(next.begin(), next.end(), drawn.back().back()); same != next.end())
          std::iter_swap(next.begin(), same);
      round.insert(round.end(), next.begin(), next.end());
    }
    drawn.push_back(std::move(round));
  }
  return drawn;
}

std::vector<RoundOrder> blocksOf(const Study& study, const std::string& grouped_by) {
  if (study.shape != Shape::Crossed || grouped_by.empty()) return {};
  const auto found = std::find_if(study.variables.begin(), study.variables.end(),
                                  [&](const Variable& one) { return one.name == grouped_by; });
  if (found == study.variables.end()) return {};
  std::vector<RoundOrder> blocks(found->levels.size());
  for (const ConfigurationId one : configurationsOf(study))
    blocks[study.levelsAt(one)[static_cast<std::size_t>(found - study.variables.begin())]].push_back(one);
  std::erase_if(blocks, [](const RoundOrder& block) { return block.empty(); });  // all its cells are left out
  return blocks;
}

std::vector<RoundOrder> drawRoundsOf(const Study& study, const Plan& plan, int rounds, int seed) {
  const std::vector<RoundOrder> blocks = blocksOf(study, plan.grouped_by);
  return blocks.size() < 2 ? drawRounds(study.configurationCount(), rounds, seed)
                           : drawBlockedRounds(blocks, rounds, seed);
}

}  // namespace core
