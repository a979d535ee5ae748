// What looks at growing data cost, and what an extension that its own spread has sized may rest on.
#include <cmath>
#include <vector>

#include <gtest/gtest.h>
#include <boost/math/distributions/normal.hpp>

#include "core/estimate/effect.h"
#include "core/estimate/spending.h"

namespace {

std::vector<double> boundsOf(const std::vector<double>& fractions) {
  std::vector<double> bounds;
  for (const double confidence : core::spentConfidences(fractions, 0.95))
    bounds.push_back(boost::math::quantile(boost::math::complement(boost::math::normal(), (1 - confidence) / 2)));
  return bounds;
}

// Known answers: published bounds of the O'Brien-Fleming spending function, two-sided 5 %.
TEST(Spending, OfTwoAndThreeEvenLooksHasThePublishedBounds) {
  const auto two = boundsOf({0.5, 1});
  EXPECT_NEAR(two[0], 2.9626, 2e-4);
  EXPECT_NEAR(two[1], 1.9686, 2e-4);
  const auto three = boundsOf({1.0 / 3, 2.0 / 3, 1});
  EXPECT_NEAR(three[0], 3.7103, 2e-4);
  EXPECT_NEAR(three[1], 2.5114, 2e-4);
  EXPECT_NEAR(three[2], 1.9930, 2e-4);
}

TEST(Spending, HoldsBackALittleOfTheErrorFromNoLook) {
  const auto five = core::spentConfidences(std::vector{0.2, 0.4, 0.6, 0.8, 1.0}, 0.95);
  ASSERT_EQ(five.size(), 5U);
  EXPECT_DOUBLE_EQ(five[0], 0.9999);  // the function itself would ask for 99.9999 %
  for (std::size_t i = 1; i < five.size(); ++i) EXPECT_LT(five[i], five[i - 1]);
  EXPECT_GT(five[4], 0.95);
  EXPECT_LT(five[4], 0.96);
}

TEST(Spending, OfOneLookIsWhatWasAsked) {
  EXPECT_NEAR(core::spentConfidences(std::vector{1.0}, 0.9).front(), 0.9, 1e-7);
}

TEST(Spending, OfUnevenLooksTogetherMissNoMoreThanWasAllowed) {
  for (const auto& fractions :
       {std::vector{0.1, 0.9, 1.0}, std::vector{0.006, 0.998, 1.0}, std::vector{0.97, 0.98, 1.0}}) {
    double sum = 0;
    for (const double confidence : core::spentConfidences(fractions, 0.95)) {
      EXPECT_GE(1 - confidence, 0.0001 - 1e-12);
      sum += 1 - confidence;
    }
    EXPECT_GE(sum, 0.05);  // looks that share data miss together; alone they would be added up
  }
}

// Rounds of a pair: what each says, and which of them were added by the spread of the others.
std::vector<core::VisitValues> roundsOf(const std::vector<double>& differences, std::size_t first) {
  std::vector<core::VisitValues> visits;
  for (std::size_t i = 0; i < differences.size(); ++i)
    for (const auto at : {core::ConfigurationId::Baseline, core::ConfigurationId::Changed}) {
      core::VisitValues visit{at, static_cast<int>(visits.size()) + 1, static_cast<int>(i) + 1, {10.0}};
      if (at == core::ConfigurationId::Changed) visit.values = {10.0 + differences[i]};
      visit.tells_spread = i < first;
      visits.push_back(visit);
    }
  return visits;
}

TEST(TwoStages, TakeTheMeanOfAllRoundsAndTheSpreadOfTheFirst) {
  const auto effect = core::effectOf(roundsOf({1, 2, 3, 2.5, 2.5, 2.5}, 3), 0.95, {}, core::Scale::Difference);
  ASSERT_TRUE(effect);
  EXPECT_NEAR(effect->contrast.difference, 2.25, 1e-12);
  EXPECT_NEAR(*effect->contrast.se, 1 / std::sqrt(6.0), 1e-12);  // sd of 1, 2, 3
  EXPECT_NEAR(effect->contrast.inference->df, 2, 1e-12);
}

TEST(TwoStages, WithOneRoundLeftOfTheFirstHaveNoInterval) {
  const auto effect = core::effectOf(roundsOf({1, 2, 3}, 1), 0.95, {}, core::Scale::Difference);
  ASSERT_TRUE(effect);
  EXPECT_FALSE(effect->contrast.inference);
  EXPECT_EQ(effect->contrast.no_interval, core::NoInterval::TooFewPasses);
}

TEST(TwoStages, ShareOnlyTheSpreadOfTheFirst) {
  std::vector<core::VisitValues> visits;
  const double values[][3] = {{10, 11, 12.5}, {10.5, 11, 13}, {10, 11.5, 12}, {9, 14, 12}};
  for (int round = 0; round < 4; ++round)
    for (std::size_t at = 0; at < 3; ++at) {
      visits.push_back(
          {core::configurationAt(at), 3 * round + static_cast<int>(at) + 1, round + 1, {values[round][at]}});
      visits.back().tells_spread = round < 3;
    }
  const auto residual = core::roundResidual(visits);
  ASSERT_TRUE(residual);
  EXPECT_EQ(residual->df, 4);
  const auto effect =
      core::weightedEffectOf(visits, core::differenceWeights(3, 0, 2), 0.95, {}, core::Scale::Difference, visits);
  ASSERT_TRUE(effect && effect->shared);
  EXPECT_NEAR(effect->shared->mixed.inference->df, 4, 1e-12);  // two of its own, two that the residual adds
}

}  // namespace
