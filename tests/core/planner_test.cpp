#include "core/planning/planner.h"

#include <gtest/gtest.h>

#include <random>

#include "core/findings/derived_studies.h"
#include "core/planning/candidate_plans.h"
#include "core/record/noise.h"
#include "core/study/schedule.h"
#include "support/studies.h"

namespace {

using core::Order;
using core::PlanDesign;
using core::Side;

core::PlanningOrder planningOf(double pass_sd, double flip_sd, double threshold_percent) {
  core::PlanningOrder planning;
  planning.noise = {pass_sd, flip_sd, {}};
  planning.aim.threshold_percent = threshold_percent;
  return planning;
}

TEST(DrawnRounds, AreBalancedAndTheSameForTheSameSeed) {
  for (int rounds = 3; rounds < 40; ++rounds) {
    const auto drawn = core::drawRounds(rounds, 7 * rounds);
    EXPECT_EQ(drawn, core::drawRounds(rounds, 7 * rounds));
    const auto baseline = std::count(drawn.begin(), drawn.end(), Side::Baseline);
    EXPECT_EQ(static_cast<int>(drawn.size()), rounds);
    EXPECT_LE(std::abs(2 * baseline - rounds), 1);
  }
  EXPECT_NE(core::drawRounds(20, 1), core::drawRounds(20, 2));
}

TEST(DrawnRounds, BecomeVisitsOfBothLevelsInEachRound) {
  core::Study study = support::studyOf({"true"});
  study.plan.order = Order::BalancedShuffle;
  study.plan.rounds = 3;
  study.plan.passes_per_visit = 2;
  study.plan.drawn = {Side::Changed, Side::Baseline, Side::Changed};
  const auto visits = core::visitsOf(study.plan);
  ASSERT_EQ(visits.size(), 6U);
  EXPECT_EQ(visits[0].side, Side::Changed);
  EXPECT_EQ(visits[1].side, Side::Baseline);
  EXPECT_EQ(visits[1].round, 1);
  EXPECT_EQ(visits[2].side, Side::Baseline);
  EXPECT_EQ(core::scheduleOf(study).size(), 12U);
  study.plan.drawn.pop_back();
  EXPECT_FALSE(core::problemsOf(study).empty());  // the order that was drawn does not fit
}

TEST(Planning, ProposesTheCheapestSufficientPlanAndNeverAnUnseenFlip) {
  const auto plan = core::cheapestPlan(planningOf(0.01, 0.005, 2));
  ASSERT_TRUE(plan);
  EXPECT_NE(plan->order, Order::Blocked);  // cheaper, and never sufficient
  EXPECT_TRUE(plan->is_sufficient);
  EXPECT_LE(plan->smallest_detectable_percent, 2);
  for (int passes = 1; passes <= 10; ++passes) {
    const auto size = core::smallestSize(PlanDesign::Rounds, passes, {0.01, 0.005, {}}, {});
    ASSERT_TRUE(size);
    EXPECT_LE(plan->minutes,
              core::candidateOf(Order::BalancedShuffle, *size, passes, planningOf(0.01, 0.005, 2)).minutes);
  }
  auto with_null = planningOf(0.01, 0.001, 2);
  with_null.noise.null = core::NoiseFloor::Null{8, 7, 3.0};
  EXPECT_EQ(core::cheapestPlan(with_null)->order, Order::Blocked);  // flips are known, and flipping costs most
  EXPECT_FALSE(core::cheapestPlan(planningOf(0.3, 0.3, 0.01)));
}

TEST(Planning, PutsRestartsBeforeASwapThatNobodyUndoes) {
  auto planning = planningOf(0.005, 0.003, 2);
  planning.is_one_way = true;
  const auto plan = core::cheapestPlan(planning);
  ASSERT_TRUE(plan);
  EXPECT_EQ(plan->order, Order::Blocked);
  EXPECT_GE(plan->null_visits, 6);  // what a null study needs
  EXPECT_TRUE(plan->is_sufficient);
  EXPECT_EQ(plan->value.df, plan->null_visits - 1);  // the restarts are as long as the study's own visits
  EXPECT_NE(core::reasonFor(*plan, planning).find("restarts before the swap"), std::string::npos);
  auto twice_as_noisy = planning;
  twice_as_noisy.noise.flip_sd = 0.006;
  const auto longer = core::cheapestPlan(twice_as_noisy);
  EXPECT_TRUE(!longer || longer->minutes > plan->minutes);
  planning.noise.null = core::NoiseFloor::Null{8, plan->size, 3};  // they were made: nothing comes before the swap
  EXPECT_EQ(core::candidateOf(Order::Blocked, plan->size, 1, planning).null_visits, 0);
  const core::Study null_study = core::nullStudyOf(support::studyOf({"w"}, 5), plan->null_visits);
  EXPECT_TRUE(null_study.is_null);
  EXPECT_EQ(2 * null_study.plan.rounds, plan->null_visits);
}

TEST(Planning, SeesMoreWithMoreTime) {
  const auto planning = planningOf(0.01, 0.005, 2);
  const auto curve = core::candidatesOf(Order::BalancedShuffle, 2, planning, 6000);
  ASSERT_GT(curve.size(), 10U);
  for (std::size_t i = 1; i < curve.size(); ++i) {
    EXPECT_GT(curve[i].minutes, curve[i - 1].minutes);
    EXPECT_LT(curve[i].smallest_detectable_percent, curve[i - 1].smallest_detectable_percent);
  }
  const auto in_time = core::bestWithin(240, planning);
  ASSERT_TRUE(in_time);
  EXPECT_LE(in_time->minutes, 240);
  EXPECT_FALSE(core::bestWithin(5, planning));
}

TEST(Planning, KnowsThatThereAndBackIsFourVisits) {
  const auto planning = planningOf(0.01, 0.005, 2);
  const auto plan = core::candidateOf(Order::ThereAndBack, 99, 4, planning);
  EXPECT_EQ(plan.size, 2);
  EXPECT_NEAR(plan.smallest_detectable_percent, 4.9225, 1e-3);  // the known answer of two visits of four
  EXPECT_FALSE(plan.is_sufficient);
}

TEST(Planning, SaysWhatAPlanCostsAndHidesNoUnseenFlip) {
  const auto planning = planningOf(0.01, 0.005, 2);
  const std::string blocked = core::reasonFor(core::candidateOf(Order::Blocked, 5, 1, planning), planning);
  EXPECT_EQ(blocked,
            "blocked, 5 passes at each level: 2 flips, 36 min, sees 2.4 % with 90 % power; flips are not seen: "
            "with 0.5 % of their own its interval is right in 84 of 100 studies");
  const std::string rounds = core::reasonFor(core::candidateOf(Order::BalancedShuffle, 7, 2, planning), planning);
  EXPECT_EQ(rounds, "7 rounds of 2 passes: 14 flips, 2 h 48 min, sees 1.8 % with 90 % power");
}

// Where the planner promises a power, simulated studies must reach it.
TEST(Planning, KeepsItsPromiseInSimulatedStudies) {
  constexpr int kStudies = 2000;
  constexpr double kPassSd = 0.01;
  constexpr double kFlipSd = 0.004;
  std::mt19937_64 engine(20261125);
  std::normal_distribution<double> normal;
  for (const PlanDesign design : {PlanDesign::Rounds, PlanDesign::Visits}) {
    const core::PlanAim aim;
    const int size = *core::smallestSize(design, 2, {kPassSd, kFlipSd, {}}, aim);
    const double promised = core::planValue(design, size, 2, {kPassSd, kFlipSd, {}}, aim).power;
    int found = 0;
    for (int study = 0; study < kStudies; ++study) {
      std::vector<core::VisitValues> visits;
      for (int i = 0; i < 2 * size; ++i) {
        const Side side = i % 2 == 0 ? Side::Baseline : Side::Changed;
        const double level = (side == Side::Changed ? std::log(1.02) : 0) + kFlipSd * normal(engine);
        const int round = design == PlanDesign::Rounds ? i / 2 + 1 : 0;
        visits.push_back({side, i + 1, round, {}});
        for (int pass = 0; pass < 2; ++pass)
          visits.back().values.push_back(60 * std::exp(level + kPassSd * normal(engine)));
      }
      const auto effect = core::effectOf(visits, aim.confidence);
      if (effect->contrast.inference->lo > 0 || effect->contrast.inference->hi < 0) ++found;
    }
    EXPECT_NEAR(static_cast<double>(found) / kStudies, promised, 0.02);
  }
}

TEST(NoiseFloors, ComeFromBothSidesOfANullStudy) {
  core::Study study = support::studyOf({"true"}, 2);
  study.is_null = true;
  study.plan.order = Order::BalancedShuffle;
  study.plan.rounds = 3;
  study.plan.passes_per_visit = 2;
  study.plan.drawn = {Side::Baseline, Side::Changed, Side::Baseline};
  std::vector<core::Visit> visits;
  std::vector<core::Pass> passes;
  const auto schedule = core::scheduleOf(study);
  for (const core::PlannedVisit& planned : core::visitsOf(study.plan))
    visits.push_back({planned.number, planned.number, planned.round, planned.side, "boot", 0});
  for (std::size_t slot = 0; slot < schedule.size(); ++slot) {
    core::Pass pass;
    pass.slot = slot;
    pass.visit_id = schedule[slot].visit;
    pass.value = 60 + 0.1 * static_cast<double>(slot % 5);
    passes.push_back(pass);
  }
  const auto noise = core::noiseOf(study, visits, passes);
  ASSERT_EQ(noise.size(), 1U);
  EXPECT_EQ(noise[0].title, "Ring pass, 4K dome");
  EXPECT_EQ(noise[0].noise.visits, 6);
  EXPECT_TRUE(noise[0].noise.isUsable());
  EXPECT_EQ(noise[0].noise.same_passes_everywhere, 2);
}

TEST(Pilots, KnowTheSpreadOfPassesAndNothingOfFlips) {
  core::Study study = support::studyOf({"workload", "{log}"}, 3);
  const auto schedule = core::scheduleOf(study);
  std::vector<core::Visit> visits{{1, 1, 1, Side::Baseline, "boot", 0}, {2, 2, 1, Side::Changed, "boot", 0}};
  std::vector<core::Pass> passes(schedule.size());
  for (std::size_t i = 0; i < schedule.size(); ++i) {
    passes[i].slot = i;
    passes[i].visit_id = schedule[i].visit;
    // One percent up and down around the level; the effect and the flips are no part of it.
    passes[i].value = (schedule[i].side == Side::Changed ? 200 : 100) * std::exp(0.01 * (schedule[i].number - 2));
  }
  const auto pilot = core::pilotOf(study, visits, passes);
  ASSERT_EQ(pilot.size(), 1U);
  EXPECT_TRUE(pilot[0].isPilot());
  EXPECT_NEAR(*pilot[0].noise.pass_sd, 0.01, 1e-12);
  EXPECT_EQ(pilot[0].noise.pass_df, 4);
  passes.resize(2);
  EXPECT_TRUE(core::pilotOf(study, visits, passes).empty());  // two passes are no pilot
}

TEST(Pilots, OfAPlayedCaseAreThoseOfItsPlayer) {
  core::Case a_case = support::studyOf({"workload", "{log}"}).cases[0];
  EXPECT_EQ(core::noiseTitle(a_case, "M. Osei"), "Ring pass, 4K dome");
  a_case.is_played = true;
  const core::CaseNoise noise{core::noiseTitle(a_case, "M. Osei"), {}};
  EXPECT_EQ(noise.title, "Ring pass, 4K dome, played by M. Osei");
  EXPECT_TRUE(core::isNoiseOf(noise, a_case));
  a_case.is_played = false;
  EXPECT_FALSE(core::isNoiseOf(noise, a_case));
}

}  // namespace
