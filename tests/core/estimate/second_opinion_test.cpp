// Drawn arrangements against all of them, and against the normal distribution where there are too many to look at.
#include "core/estimate/second_opinion.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>
#include <utility>

namespace {

core::Effect effectOf(std::size_t baseline, std::size_t changed, double shift, unsigned seed) {
  std::mt19937_64 engine(seed);
  std::normal_distribution<double> normal;
  core::Effect effect;
  effect.design.estimator = core::Estimator::Passes;
  for (std::size_t i = 0; i < baseline; ++i) effect.baseline_units.push_back(normal(engine));
  for (std::size_t i = 0; i < changed; ++i) effect.changed_units.push_back(normal(engine) + shift);
  return effect;
}

core::Effect roundsOf(std::size_t rounds, double shift, unsigned seed) {
  core::Effect effect = effectOf(0, rounds, shift, seed);
  effect.design.estimator = core::Estimator::Rounds;
  effect.round_differences = std::exchange(effect.changed_units, {});
  return effect;
}

// As far apart as so many draws may be by chance, four sds.
double byChance(double p, double draws) { return 4 * std::sqrt(p * (1 - p) / draws) + 2 / draws; }

class Opinions : public testing::TestWithParam<unsigned> {};

TEST_P(Opinions, DrawnComeCloseToAll) {
  constexpr std::size_t kDraws = 4000;
  // Numbers of units that fill bytes, and that do not.
  for (const auto& effect :
       {roundsOf(13, 0.5, GetParam()), roundsOf(16, 0.5, GetParam()), effectOf(8, 8, 0.8, GetParam()),
        effectOf(7, 10, 0.8, GetParam()), effectOf(10, 7, 0.8, GetParam())}) {
    const auto all = core::secondOpinion(effect, 0.95, 1U << 20);
    const auto drawn = core::secondOpinion(effect, 0.95, kDraws);
    ASSERT_TRUE(all.is_exact);
    ASSERT_FALSE(drawn.is_exact);
    EXPECT_NEAR(drawn.p, all.p, byChance(all.p, kDraws));
    EXPECT_EQ(drawn.shift, all.shift);
    EXPECT_EQ(drawn.as_extreme, std::nullopt);
    EXPECT_EQ(drawn.smallest_possible_p, 1.0 / (1 + kDraws));  // the arrangement that was found counts as one
  }
}

// The mirrored arrangement is as extreme however large the numbers are: a difference of frequencies is some 1e5.
TEST_P(Opinions, DoNotDependOnTheUnit) {
  for (const auto& small : {roundsOf(9, 0.5, GetParam()), effectOf(5, 5, 0.8, GetParam())}) {
    core::Effect large = small;
    for (auto* values : {&large.baseline_units, &large.changed_units, &large.round_differences})
      for (double& value : *values) value *= 3e5;
    EXPECT_EQ(core::secondOpinion(large, 0.95, 1U << 20).as_extreme,
              core::secondOpinion(small, 0.95, 1U << 20).as_extreme);
    EXPECT_GE(*core::secondOpinion(large, 0.95, 1U << 20).as_extreme, 2U);
  }
}

TEST_P(Opinions, OfManyUnitsAgreeWithTheNormalDistribution) {
  const auto effect = effectOf(150, 170, 0.15, GetParam());
  const auto opinion = core::secondOpinion(effect, 0.95, 20000);
  std::vector<double> all = effect.baseline_units;
  all.insert(all.end(), effect.changed_units.begin(), effect.changed_units.end());
  const auto mean = [](const std::vector<double>& values) {
    double sum = 0;
    for (const double value : values) sum += value;
    return sum / static_cast<double>(values.size());
  };
  double squares = 0;
  for (const double value : all) squares += (value - mean(all)) * (value - mean(all));
  const double sd = std::sqrt(squares / 319 * (1.0 / 150 + 1.0 / 170));
  const double z = std::abs(mean(effect.changed_units) - mean(effect.baseline_units)) / sd;
  EXPECT_NEAR(opinion.p, std::erfc(z / std::sqrt(2.0)), 0.02);
}

TEST_P(Opinions, AreTheSameWhoeverAsksAndWhenever) {
  const auto first = effectOf(20, 20, 0.5, GetParam());
  const auto other = effectOf(20, 19, 0.5, GetParam());
  const double p = core::secondOpinion(first, 0.95).p;
  (void)core::secondOpinion(other, 0.95);  // draws other sets
  EXPECT_EQ(core::secondOpinion(first, 0.95).p, p);
  EXPECT_EQ(core::secondOpinion(first, 0.99).p, p);
  EXPECT_NE(core::secondOpinion(first, 0.95, 1000).p, 1);
}

INSTANTIATE_TEST_SUITE_P(Seeds, Opinions, testing::Range(1U, 9U));

}  // namespace
