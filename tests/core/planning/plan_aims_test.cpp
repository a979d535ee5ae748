// What a plan promises, and of what: the suite, each of its cases, decibels, a spread that few passes told.
#include <gtest/gtest.h>

#include <boost/math/distributions/chi_squared.hpp>
#include <boost/math/distributions/non_central_t.hpp>
#include <cmath>

#include "core/planning/candidate_plans.h"
#include "core/planning/power.h"
#include "core/values/percent.h"
#include "support/studies.h"

namespace {

core::Study casesOf(std::size_t count) {
  core::Study study = support::roundsOf(5, 2);
  while (study.cases.size() < count) {
    study.cases.push_back(study.cases[0]);
    study.cases.back().preset = "preset " + std::to_string(study.cases.size());
  }
  return study;
}

core::CandidatePlan planOf(const core::PlanningOrder& planning) {
  return core::candidateOf(core::Order::BalancedShuffle, 5, 2, planning);
}

// A chance that nothing at all has: five in a hundred studies without an effect find one.
TEST(PlanAims, OfLessThanAStudyFindsByChanceNeedNoEffect) {
  EXPECT_EQ(core::effectFoundWith(0.01, 10, 2.228), 0);
  EXPECT_GT(core::effectFoundWith(0.06, 10, 2.228), 0);
}

TEST(PlanAims, HaveTheChancesOfTheNoncentralT) {
  for (const double df : {1.0, 2.0, 3.7, 10.0, 400.0, 1e6})
    for (const double t : {0.7, 2.228, 12.7})
      for (const double ncp : {-3.0, 0.0, 0.4, 2.8, 15.0}) {
        const double expected = cdf(complement(boost::math::non_central_t(df, ncp), t));
        EXPECT_NEAR(core::chanceOfLyingAbove(ncp, df, t), expected, 1e-9) << df << " " << t << " " << ncp;
      }
}

// Next to certainty the quantile dwarfs what a normal estimate may miss by: what is left is how large the spread looks.
TEST(PlanAims, AreFoundForConfidencesNextToCertainty) {
  for (const double df : {1.0, 2.0, 8.0}) {
    const double spread = std::sqrt(quantile(boost::math::chi_squared(df), 0.8) / df);
    EXPECT_NEAR(core::effectFoundWith(0.8, df, 1e12) / 1e12, spread, 1e-6) << df;
  }
}

TEST(PlanAims, TellTheSuiteFromEachOfItsCases) {
  const core::PlanningOrder one = core::planningOf(casesOf(1));
  const core::PlanningOrder six = core::planningOf(casesOf(6));
  EXPECT_FALSE(planOf(one).each);
  const core::CandidatePlan plan = planOf(six);
  ASSERT_TRUE(plan.each);
  EXPECT_GT(plan.value.power, planOf(one).value.power) << "passes average out over the cases";
  EXPECT_LT(plan.each->power, planOf(one).value.power) << "each claim must stand among six";
  const std::string said = core::reasonFor(plan, six);
  EXPECT_NE(said.find(" of the suite in 90 of 100 studies, and 2 % in each of 6 cases in "), std::string::npos) << said;
  EXPECT_EQ(core::reasonFor(planOf(one), one).find("suite"), std::string::npos);
}

// Three passes of a pilot know their spread badly: what is promised of ninety is kept by fewer where that is forgotten.
TEST(PlanAims, OfAPilotAreAveragedOverWhatItsSpreadMayBe) {
  core::PlanningOrder planning = core::planningOf(casesOf(1));
  const core::CandidatePlan certain = planOf(planning);
  planning.noise.spread_df = 2;
  const core::CandidatePlan pilot = planOf(planning);
  planning.noise.spread_df = 200;
  const core::CandidatePlan known = planOf(planning);
  EXPECT_NEAR(known.value.power, certain.value.power, 0.01);
  EXPECT_GT(pilot.smallest_detectable, 1.1 * certain.smallest_detectable);
  // At the size of change that the plan says, the chance on the average is what it says.
  planning.noise.spread_df = 2;
  planning.aim.threshold_percent = pilot.smallest_detectable;
  EXPECT_NEAR(planOf(planning).value.power, planning.aim.power, 0.005);
}

TEST(PlanAims, OfDecibelsAreInDecibels) {
  core::Study study = casesOf(1);
  study.cases[0].source = core::ResultSource::JsonField;
  study.cases[0].metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 1};
  const core::PlanningOrder unknown = core::planningOf(study);
  EXPECT_NE(core::reasonFor(planOf(unknown), unknown).find("how much passes and flips scatter is not known"),
            std::string::npos);
  study.plan.guess.pass_spread_units = 0.4;
  study.plan.guess.flip_spread_units = 0.3;
  const core::PlanningOrder planning = core::planningOf(study);
  const core::CandidatePlan plan = planOf(planning);
  EXPECT_NEAR(plan.value.se, std::sqrt(2 * (0.3 * 0.3 + 0.4 * 0.4 / 2) / 5), 1e-12);
  EXPECT_NE(core::reasonFor(plan, planning).find("detects 1.1 dB in 90 of 100 studies"), std::string::npos)
      << core::reasonFor(plan, planning);
  // Beside cases in percent it is said that the plan is not about it.
  study.cases.push_back(casesOf(1).cases[0]);
  const core::PlanningOrder mixed = core::planningOf(study);
  EXPECT_NE(core::reasonFor(planOf(mixed), mixed).find("; of noise in dB it says nothing"), std::string::npos);
}

TEST(PlanAims, OfALadderSayWhatItsSharedSpreadSaves) {
  core::Study ladder = support::ladderOf(5, 1);
  ladder.plan.spread = core::Spread::Shared;
  const core::PlanningOrder shared = core::planningOf(ladder);
  ladder.plan.spread = core::Spread::Own;
  const core::PlanningOrder own = core::planningOf(ladder);
  EXPECT_EQ(planOf(shared).value.df, 2 * planOf(own).value.df);
  EXPECT_LT(planOf(shared).smallest_detectable, planOf(own).smallest_detectable);
  const auto offer = core::spreadOffer(ladder, own);
  ASSERT_TRUE(offer);
  EXPECT_EQ(offer->rfind("The same certainty takes ", 0), 0U) << *offer;
  EXPECT_EQ(core::spreadOffer(ladder, shared), offer) << "whichever of the two is chosen";
  EXPECT_FALSE(core::spreadOffer(casesOf(2), core::planningOf(casesOf(2))));
}

}  // namespace
