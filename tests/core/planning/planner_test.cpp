#include "core/planning/planner.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <random>

#include "core/findings/derived_studies.h"
#include "core/machine/variable_kind.h"
#include "core/planning/candidate_plans.h"
#include "core/record/noise.h"
#include "core/study/reshaped.h"
#include "core/study/schedule.h"
#include "support/studies.h"

namespace {

using core::ConfigurationId;
using core::Order;
using core::PlanDesign;

core::PlanningOrder planningOf(double pass_sd, double flip_sd, double threshold_percent) {
  core::PlanningOrder planning;
  planning.noise = {pass_sd, flip_sd, {}};
  planning.aim.threshold_percent = threshold_percent;
  return planning;
}

// A board that takes half an hour, crossed with a governor that takes seconds.
core::Study slowAndFast() {
  core::Study study = support::crossedOf(6);
  study.variables[0].name = "board";
  study.variables[0].kind = "board";
  study.variables[1].name = "governor";
  study.variables[1].kind = "governor";
  return study;
}

TEST(DrawnRounds, AreBalancedAndTheSameForTheSameSeed) {
  for (int rounds = 3; rounds < 40; ++rounds) {
    const auto drawn = core::drawRounds(2, rounds, 7 * rounds);
    EXPECT_EQ(drawn, core::drawRounds(2, rounds, 7 * rounds));
    const auto baseline = std::count(drawn.begin(), drawn.end(), core::pairRounds({ConfigurationId::Baseline}).front());
    EXPECT_EQ(static_cast<int>(drawn.size()), rounds);
    EXPECT_LE(std::abs(2 * baseline - rounds), 1);
  }
  EXPECT_NE(core::drawRounds(2, 20, 1), core::drawRounds(2, 20, 2));
}

TEST(DrawnRounds, BecomeVisitsOfBothLevelsInEachRound) {
  core::Study study = support::studyOf({"true"});
  study.plan.order = Order::BalancedShuffle;
  study.plan.rounds = 3;
  study.plan.passes_per_visit = 2;
  study.plan.drawn = core::pairRounds({ConfigurationId::Changed, ConfigurationId::Baseline, ConfigurationId::Changed});
  const auto visits = core::visitsOf(study);
  ASSERT_EQ(visits.size(), 6U);
  EXPECT_EQ(visits[0].configuration, ConfigurationId::Changed);
  EXPECT_EQ(visits[1].configuration, ConfigurationId::Baseline);
  EXPECT_EQ(visits[1].round, 1);
  EXPECT_EQ(visits[2].configuration, ConfigurationId::Baseline);
  EXPECT_EQ(core::scheduleOf(study).size(), 12U);
  study.plan.drawn.pop_back();
  EXPECT_FALSE(core::problemsOf(study).empty());  // the order that was drawn does not fit
}

TEST(Planning, ProposesTheCheapestSufficientPlanAndNeverAnUnseenFlip) {
  const auto plan = core::cheapestPlan(planningOf(0.01, 0.005, 2));
  ASSERT_TRUE(plan);
  EXPECT_NE(plan->order, Order::Blocked);  // cheaper, and never sufficient
  EXPECT_TRUE(plan->is_sufficient);
  EXPECT_LE(plan->smallest_detectable, 2);
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

// Tried out one by one: every order, every number of passes, every size up to the first that will do.
std::optional<double> cheapestMinutesByTrying(const core::PlanningOrder& planning) {
  std::optional<double> least;
  const auto tryAll = [&](Order order, int passes, int from, int to) {
    for (int size = from; size <= to; ++size) {
      const core::CandidatePlan plan = core::candidateOf(order, size, passes, planning);
      if (!plan.is_sufficient) continue;
      least = std::min(least.value_or(plan.minutes), plan.minutes);
      return;
    }
  };
  tryAll(Order::Blocked, 1, 2, 60);
  for (int passes = 1; passes <= 10; ++passes) {
    tryAll(Order::ThereAndBack, passes, 2, 2);
    tryAll(Order::BalancedShuffle, passes, 3, 60);
  }
  return least;
}

TEST(Planning, FindsWhatTryingEverythingFinds) {
  std::mt19937_64 engine(7);
  std::uniform_real_distribution<double> noise(0.001, 0.006);
  for (int i = 0; i < 40; ++i) {
    auto planning = planningOf(noise(engine), noise(engine), 1 + i % 3);
    planning.times.flip = i % 4 == 0 ? 0.2 : 8;
    planning.configurations = i % 5 == 4 ? 3 : 2;
    if (i % 3 == 0) planning.noise.null = core::NoiseFloor::Null{8, {}, 7};
    const auto plan = core::cheapestPlan(planning);
    const auto tried = cheapestMinutesByTrying(planning);
    ASSERT_EQ(plan.has_value(), tried.has_value()) << i;
    EXPECT_DOUBLE_EQ(plan ? plan->minutes : 0, tried.value_or(0)) << i;
  }
}

TEST(Planning, PutsAChosenPlanIntoAStudyThatCanBeRun) {
  for (const Order order : {Order::Blocked, Order::ThereAndBack, Order::BalancedShuffle})
    for (const core::Study& of : {support::studyOf({"workload", "{log}"}, 5), support::ladderOf(), slowAndFast()}) {
      core::Study study = of;
      if (study.shape == core::Shape::Crossed) study.plan.grouped_by = "board";
      const core::CandidatePlan chosen = core::candidateOf(order, 4, 3, core::planningOf(study));
      study.plan = core::withCandidate(study.plan, chosen, 11);
      EXPECT_TRUE(core::problemsOf(study).empty()) << core::problemsOf(study).front().sentence();
      const auto visits = core::visitsOf(study);
      EXPECT_EQ(static_cast<int>(visits.size()), chosen.visits);
      for (const core::PlannedVisit& visit : visits) EXPECT_EQ(visit.passes, chosen.passes_per_visit);
    }
}

TEST(Planning, SaysWhichShapeAPlanHas) {
  auto planning = planningOf(0.005, 0.003, 2);
  EXPECT_EQ(core::costText(core::candidateOf(Order::ThereAndBack, 2, 1, planning)),
            "there and back with 1 pass a visit: 4 flips, 40 min");
  EXPECT_EQ(core::costText(core::candidateOf(Order::BalancedShuffle, 3, 1, planning)),
            "3 rounds of 1 pass: 6 flips, 1 h");
  planning.is_one_way = true;
  const core::CandidatePlan swap = core::candidateOf(Order::Blocked, 4, 4, planning);
  EXPECT_EQ(core::costText(swap).find(std::to_string(swap.null_visits) + " restarts before the swap, then blocked, 4 "),
            0U)
      << core::costText(swap);
  planning.pass_share = planning.flip_share = 2;
  EXPECT_NE(core::reasonFor(swap, planning).find(" % of interaction in "), std::string::npos);
  planning.pass_share = 0.5;
  EXPECT_NE(core::reasonFor(swap, planning).find(" % of a main effect in "), std::string::npos);
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
    EXPECT_LT(curve[i].smallest_detectable, curve[i - 1].smallest_detectable);
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
  EXPECT_NEAR(plan.smallest_detectable, 4.9225, 1e-3);  // the known answer of two visits of four
  EXPECT_FALSE(plan.is_sufficient);
}

TEST(Planning, SaysWhatAPlanCostsAndHidesNoUnseenFlip) {
  const auto planning = planningOf(0.01, 0.005, 2);
  const std::string blocked = core::reasonFor(core::candidateOf(Order::Blocked, 5, 1, planning), planning);
  EXPECT_EQ(blocked,
            "blocked, 5 passes at each level: 2 flips, 36 min, detects 2.4 % in 90 of 100 studies; flips are "
            "not seen: if each adds 0.5 % (sd), its interval is right in 84 of 100 studies");
  const std::string rounds = core::reasonFor(core::candidateOf(Order::BalancedShuffle, 7, 2, planning), planning);
  EXPECT_EQ(rounds, "7 rounds of 2 passes: 14 flips, 2 h 48 min, detects 1.8 % in 90 of 100 studies");
}

TEST(Planning, KnowsWhatEachKindOfFlipTakes) {
  core::Study study = slowAndFast();
  ASSERT_NE(core::findVariableKind("board"), nullptr);
  const auto id = [](std::size_t place) { return core::configurationAt(place); };
  const double board = core::flipMinutes(study, study.variables[0]);
  const double governor = core::flipMinutes(study, study.variables[1]);
  EXPECT_GT(board, 60 * governor);
  EXPECT_EQ(core::flipMinutes(study, id(0), id(1)), governor);
  EXPECT_EQ(core::flipMinutes(study, id(0), id(2)), board);
  EXPECT_EQ(core::flipMinutes(study, id(0), id(3)), board + governor);
  EXPECT_EQ(core::flipMinutes(study, id(1), id(1)), board + governor) << "a flip of its own";
  EXPECT_EQ(core::flipMinutes(study, std::nullopt, id(1)), board + governor) << "the first of all";
  study.variables[0].flip_minutes = 45;
  EXPECT_EQ(core::flipMinutes(study, id(0), id(2)), 45);
  EXPECT_FALSE(core::isFlipGuessed(study, study.variables[0]));
  EXPECT_FALSE(core::isFlipGuessed(study, study.variables[1])) << "its kind is known";
  study.variables[1].kind.clear();
  EXPECT_TRUE(core::isFlipGuessed(study, study.variables[1]));
  EXPECT_EQ(core::flipMinutes(study, study.variables[1]), study.plan.guess.flip_minutes);
  const core::Study alone = core::reshaped(study, core::Shape::Pair);
  EXPECT_TRUE(core::isFlipGuessed(alone, alone.variable())) << "or the plan's own guess would be of no account";
  core::Study pair = support::studyOf({"w"}, 5);
  pair.variable().kind = "governor";
  pair.plan.guess.flip_minutes = 7;
  EXPECT_EQ(core::flipMinutes(pair, pair.variable()), 7) << "of one variable the plan's own guess counts";
}

TEST(Planning, GroupsTheVisitsByTheVariableThatTakesLong) {
  core::Study study = slowAndFast();
  study.plan.grouped_by = "board";
  for (int seed = 0; seed < 40; ++seed) {
    const auto rounds = core::drawRoundsOf(study, study.plan, 6, seed);
    EXPECT_EQ(rounds, core::drawRoundsOf(study, study.plan, 6, seed));
    int begins_with_first = 0;
    std::map<core::ConfigurationId, int> first_in_block;
    for (std::size_t i = 0; i < rounds.size(); ++i) {
      const core::RoundOrder& round = rounds[i];
      ASSERT_EQ(round.size(), 4U);
      const auto board = [&](std::size_t place) { return study.levelsAt(round[place])[0]; };
      EXPECT_EQ(board(0), board(1));
      EXPECT_EQ(board(2), board(3));
      EXPECT_NE(board(0), board(2));
      begins_with_first += board(0) == 0 ? 1 : 0;
      const bool stays = i > 0 && board(0) == study.levelsAt(rounds[i - 1].back())[0];
      EXPECT_TRUE(!stays || round.front() == rounds[i - 1].back()) << "no two rounds share a flip of the board";
    }
    EXPECT_EQ(begins_with_first, 3) << "each board begins half of the rounds: a drift cancels";
  }
  study.plan.drawn = core::drawRoundsOf(study, study.plan, 6, 3);
  EXPECT_TRUE(core::problemsOf(study).empty());
  study.plan.grouped_by = "cooler";
  ASSERT_FALSE(core::problemsOf(study).empty());
  EXPECT_EQ(core::problemsOf(study).front().where, "plan.grouped_by");
}

TEST(Planning, SaysWhatGroupingSavesAndWhatItCosts) {
  core::Study study = slowAndFast();
  const core::PlanningOrder free = core::planningOf(study);
  const auto offer = core::groupingOffer(study, "board", free);
  ASSERT_TRUE(offer);
  EXPECT_EQ(offer->find("Grouped by board: "), 0U);
  study.plan.planned_for = core::PlannedFor::MainEffect;
  const auto valued = [&] { return core::candidateOf(Order::BalancedShuffle, 6, 2, core::planningOf(study)); };
  const core::CandidatePlan every_order = valued();
  study.plan.grouped_by = "board";
  const core::CandidatePlan grouped = valued();
  EXPECT_LT(grouped.minutes, 0.85 * every_order.minutes);
  EXPECT_GT(grouped.smallest_detectable, every_order.smallest_detectable);
  EXPECT_FALSE(core::groupingOffer(support::ladderOf(), "graphics link", free));
}

// What a flip of the board adds is shared by its whole block, and the intervals hold the truth all the same.
TEST(Planning, GroupedVisitsKeepTheIntervalsHonest) {
  constexpr int kStudies = 2000;
  constexpr double kPassSd = 0.003;
  constexpr double kBoardSd = 0.008;
  core::Study study = slowAndFast();
  study.plan.grouped_by = "board";
  std::mt19937_64 engine(20261127);
  std::normal_distribution<double> normal;
  const std::vector<std::vector<double>> weights{{-0.5, -0.5, 0.5, 0.5}, {-0.5, 0.5, -0.5, 0.5}, {1, -1, -1, 1}};
  std::vector<int> held(weights.size(), 0);
  for (int i = 0; i < kStudies; ++i) {
    study.plan.drawn = core::drawRoundsOf(study, study.plan, study.plan.rounds, i);
    std::vector<core::VisitValues> visits;
    double of_board = 0;
    for (const core::PlannedVisit& visit : core::visitsOf(study)) {
      const bool is_flipped = visits.empty() || visits.back().configuration == visit.configuration ||
                              study.levelsAt(visits.back().configuration)[0] != study.levelsAt(visit.configuration)[0];
      if (is_flipped) of_board = kBoardSd * normal(engine);
      visits.push_back({visit.configuration, visit.number, visit.round, {}});
      for (int pass = 0; pass < visit.passes; ++pass)
        visits.back().values.push_back(60 * std::exp(of_board + kPassSd * normal(engine)));
    }
    for (std::size_t k = 0; k < weights.size(); ++k) {
      const auto effect = core::weightedEffectOf(visits, weights[k], 0.95);
      ASSERT_TRUE(effect && effect->contrast.inference);
      held[k] += effect->contrast.inference->lo <= 0 && effect->contrast.inference->hi >= 0 ? 1 : 0;
    }
  }
  for (const int often : held) EXPECT_NEAR(static_cast<double>(often) / kStudies, 0.95, 0.015);
}

// The standard error that is planned with is that of the contrast that the study will judge.
TEST(Planning, IsLargeEnoughForTheContrastThatIsAskedFor) {
  core::Study study = slowAndFast();
  const auto detects = [&](core::PlannedFor what) {
    study.plan.planned_for = what;
    return core::candidateOf(Order::BalancedShuffle, 6, 2, core::planningOf(study)).value.se;
  };
  const double cell = detects(core::PlannedFor::Difference);
  EXPECT_NEAR(detects(core::PlannedFor::MainEffect), cell / std::sqrt(2), 1e-12);
  EXPECT_NEAR(detects(core::PlannedFor::Interaction), cell * std::sqrt(2), 1e-12);
  core::Study pair = support::studyOf({"w"}, 5);
  pair.plan.planned_for = core::PlannedFor::Interaction;
  pair.plan.order = Order::BalancedShuffle;
  const auto problems = core::problemsOf(pair);
  EXPECT_TRUE(std::any_of(problems.begin(), problems.end(),
                          [](const core::Error& one) { return one.where == "plan.planned_for"; }));
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
        const ConfigurationId configuration = i % 2 == 0 ? ConfigurationId::Baseline : ConfigurationId::Changed;
        const double level =
            (configuration == ConfigurationId::Changed ? std::log(1.02) : 0) + kFlipSd * normal(engine);
        const int round = design == PlanDesign::Rounds ? i / 2 + 1 : 0;
        visits.push_back({configuration, i + 1, round, {}});
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
  study.plan.drawn = core::pairRounds({ConfigurationId::Baseline, ConfigurationId::Changed, ConfigurationId::Baseline});
  std::vector<core::Visit> visits;
  std::vector<core::Pass> passes;
  const auto schedule = core::scheduleOf(study);
  for (const core::PlannedVisit& planned : core::visitsOf(study))
    visits.push_back({planned.number, planned.number, planned.round, planned.configuration, "boot", 0});
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
  std::vector<core::Visit> visits{{1, 1, 1, ConfigurationId::Baseline, "boot", 0},
                                  {2, 2, 1, ConfigurationId::Changed, "boot", 0}};
  std::vector<core::Pass> passes(schedule.size());
  for (std::size_t i = 0; i < schedule.size(); ++i) {
    passes[i].slot = i;
    passes[i].visit_id = schedule[i].visit;
    // One percent up and down around the level; the effect and the flips are no part of it.
    passes[i].value =
        (schedule[i].configuration == ConfigurationId::Changed ? 200 : 100) * std::exp(0.01 * (schedule[i].number - 2));
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
