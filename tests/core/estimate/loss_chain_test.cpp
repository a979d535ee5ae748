// The loss along a chain, held to what must be so of any chain.
#include "core/estimate/loss_chain.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <random>

namespace {

using core::Estimator;
using core::LossChain;
using core::Units;

/// Logs of rates at `levels`, so many at each; of rounds each has a level of its own, shared by all configurations.
Units unitsAt(const std::vector<double>& levels, std::size_t count, Estimator estimator, std::uint64_t seed,
              double sd = 0.01) {
  std::mt19937_64 engine(seed);
  std::normal_distribution<double> noise(0, sd);
  Units units{estimator, std::vector<std::vector<double>>(levels.size())};
  for (std::size_t round = 0; round < count; ++round) {
    const double of_round = estimator == Estimator::Rounds ? 5 * noise(engine) : 0;
    for (std::size_t i = 0; i < levels.size(); ++i) units.at[i].push_back(levels[i] + of_round + noise(engine));
  }
  return units;
}

LossChain chainOf(const Units& units) {
  const auto chain = core::lossChainOf(units, 0.95);
  EXPECT_TRUE(chain.ok());
  return *chain;
}

TEST(LossChains, OfOneStepAreThatStepForSure) {
  for (const Estimator estimator : {Estimator::Passes, Estimator::Rounds}) {
    const LossChain chain = chainOf(unitsAt({4.6, 4.5}, 5, estimator, 1));
    ASSERT_EQ(chain.steps.size(), 1U);
    EXPECT_NEAR(chain.steps[0].share, 1, 1e-12);
    ASSERT_TRUE(chain.steps[0].interval);
    EXPECT_NEAR(chain.steps[0].interval->first, 1, 1e-6);  // step and total are one: nothing is left to chance
    EXPECT_NEAR(chain.steps[0].interval->second, 1, 1e-6);
  }
}

TEST(LossChains, AccountForTheWholeAndHoldTheirShares) {
  for (const Estimator estimator : {Estimator::Passes, Estimator::Visits, Estimator::Rounds})
    for (std::uint64_t seed = 1; seed < 30; ++seed) {
      const LossChain chain = chainOf(unitsAt({4.6, 4.55, 4.4, 4.42}, 6, estimator, seed));
      double sum = 0;
      for (const core::LossStep& step : chain.steps) {
        sum += step.share;
        EXPECT_EQ(step.interval.has_value(), chain.is_clear_of_zero);
        if (!step.interval) continue;
        EXPECT_LE(step.interval->first, step.share);
        EXPECT_GE(step.interval->second, step.share);
      }
      EXPECT_NEAR(sum, 1, 1e-12);
    }
}

// Walked backwards each step is the same part of the whole, with the same interval.
TEST(LossChains, SayTheSameWalkedBackwards) {
  for (const Estimator estimator : {Estimator::Passes, Estimator::Rounds}) {
    Units units = unitsAt({4.6, 4.55, 4.4, 4.3}, 6, estimator, 7);
    const LossChain forth = chainOf(units);
    std::reverse(units.at.begin(), units.at.end());
    const LossChain back = chainOf(units);
    ASSERT_TRUE(forth.is_clear_of_zero && back.is_clear_of_zero);
    for (std::size_t i = 0; i < 3; ++i) {
      EXPECT_NEAR(forth.steps[i].share, back.steps[2 - i].share, 1e-12);
      EXPECT_NEAR(forth.steps[i].interval->first, back.steps[2 - i].interval->first, 1e-9);
      EXPECT_NEAR(forth.steps[i].interval->second, back.steps[2 - i].interval->second, 1e-9);
    }
  }
}

TEST(LossChains, HoldTheTrueShareAsOftenAsTheySay) {
  constexpr int kStudies = 2000;
  const std::vector<double> levels{4.6, 4.5, 4.3, 4.25};
  for (const Estimator estimator : {Estimator::Passes, Estimator::Rounds})
    for (std::size_t step = 0; step < 3; ++step) {
      const double truth = (levels[step + 1] - levels[step]) / (levels[3] - levels[0]);
      int held = 0;
      for (int i = 0; i < kStudies; ++i) {
        const LossChain chain = chainOf(unitsAt(levels, 5, estimator, 100 + i, 0.03));
        ASSERT_TRUE(chain.steps[step].interval);
        held += chain.steps[step].interval->first <= truth && truth <= chain.steps[step].interval->second ? 1 : 0;
      }
      EXPECT_NEAR(static_cast<double>(held) / kStudies, 0.95, 0.015) << "step " << step;
    }
}

TEST(LossChains, NeedTwoPassesSomewhere) {
  Units units{Estimator::Passes, {{4.6}, {4.5}, {4.4}}};
  const auto none = core::lossChainOf(units, 0.95);
  ASSERT_FALSE(none.ok());
  EXPECT_EQ(none.error().kind, core::ErrorKind::TooFew);
  units.at[1].push_back(4.51);  // the spread of one configuration stands for all
  EXPECT_TRUE(core::lossChainOf(units, 0.95).ok());
}

// Where the whole may be nothing, no step is a part of it.
TEST(LossChains, ShareNothingWhereThereMayBeNothing) {
  const LossChain chain = chainOf({Estimator::Passes, {{4.60, 4.62, 4.58}, {4.50, 4.51, 4.49}, {4.61, 4.59, 4.60}}});
  EXPECT_FALSE(chain.is_clear_of_zero);
  for (const core::LossStep& step : chain.steps) EXPECT_FALSE(step.interval);
  const LossChain gain = chainOf({Estimator::Passes, {{4.50, 4.51, 4.49}, {4.55, 4.56, 4.54}, {4.61, 4.59, 4.60}}});
  EXPECT_TRUE(gain.is_clear_of_zero) << "a whole that grows is shared as well";
}

}  // namespace
