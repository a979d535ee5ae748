#include "core/study/study.h"

#include <gtest/gtest.h>

#include "core/estimate/wording.h"
#include "core/study/schedule.h"
#include "support/studies.h"

namespace {

core::Study readyStudy() { return support::studyOf({"iron-lever-probe", "scene", "--out", "{log}"}, 5); }

TEST(Study, ReadyOneHasNoProblems) { EXPECT_TRUE(core::problemsOf(readyStudy()).empty()); }

TEST(Study, NamesEveryProblemWithItsPlace) {
  const auto expect = [](core::Study study, const std::string& where) {
    const auto problems = core::problemsOf(study);
    ASSERT_EQ(problems.size(), 1U) << where;
    EXPECT_EQ(problems.front().where, where);
    EXPECT_FALSE(problems.front().remedy.empty());
  };
  core::Study study = readyStudy();
  study.variable().name = " ";
  expect(study, "variable");
  study = readyStudy();
  study.variable().kind = "warp_drive";
  expect(study, "variable");
  study.variable().kind = "other";  // which needs the facts that the setting changes
  expect(study, "variable");
  study = readyStudy();
  study.variable().levels[1].name = study.variable().levels[0].name;
  expect(study, "levels");
  study = readyStudy();
  study.cases[0].command = {"iron-lever-probe"};  // no {log}
  expect(study, "case 1 (Ring pass, 4K dome)");
  study = readyStudy();
  study.cases.push_back(study.cases[0]);
  expect(study, "case 2");
  study = readyStudy();
  study.plan = {1, 0, core::Order::ThereAndBack, 60};
  expect(study, "plan");
  study = readyStudy();
  study.confidence = 1;
  expect(study, "confidence");
  study = readyStudy();
  study.cases[0].metric = {"frame time", "s", core::Direction::LowerIsBetter};  // a log's is in ms
  expect(study, "case 1 (Ring pass, 4K dome)");
  study.cases[0].metric = {"average FPS", "FPS", core::Direction::LowerIsBetter};
  expect(study, "case 1 (Ring pass, 4K dome)");
  study.cases[0].metric = {"mean frame time", "ms", core::Direction::HigherIsBetter};
  expect(study, "case 1 (Ring pass, 4K dome)");
  study.cases[0].metric = {"mean frame time", "ms", core::Direction::LowerIsBetter};
  EXPECT_TRUE(core::problemsOf(study).empty());
  study = readyStudy();
  study.notice_threshold_ms = 0;
  expect(study, "threshold");
}

TEST(Study, TakesWhatLiesOnTheEdgeOfARange) {
  const auto problems = [](auto change) {
    core::Study study = readyStudy();
    change(study);
    return core::problemsOf(study).size();
  };
  const auto played = [&](double seconds) {
    return problems([&](core::Study& study) {
      study.cases[0].is_played = true;
      study.cases[0].played_s = seconds;
    });
  };
  EXPECT_EQ(played(1), played(60));
  EXPECT_EQ(played(7200), played(60));
  EXPECT_EQ(played(0.9), played(60) + 1);
  EXPECT_EQ(played(7201), played(60) + 1);
  const auto threshold = [&](double percent) {
    return problems([&](core::Study& study) { study.notice_threshold_percent = percent; });
  };
  EXPECT_EQ(threshold(0) + threshold(1000), 0U);
  EXPECT_EQ(threshold(-0.1) + threshold(1000.1), 2U);
  const auto time = [&](double ms) { return problems([&](core::Study& study) { study.notice_threshold_ms = ms; }); };
  EXPECT_EQ(time(0.001) + time(1000), 0U);
  EXPECT_EQ(time(1000.1), 1U);
  const auto confidence = [&](double share) { return problems([&](core::Study& study) { study.confidence = share; }); };
  EXPECT_EQ(confidence(0.5), 0U);
  EXPECT_EQ(confidence(0.49), 1U);
  const auto band = [&](double percent) { return problems([&](core::Study& study) { study.band_percent = percent; }); };
  EXPECT_EQ(band(0.1) + band(99.9), 0U);
  EXPECT_EQ(band(0) + band(100), 2U);
}

TEST(Schedule, ThereAndBackCancelsASteadyDrift) {
  for (int passes = 2; passes <= 9; ++passes) {
    core::Study study = readyStudy();
    study.plan = {passes, 1, core::Order::ThereAndBack, 60};
    // The estimator compares means of visit means: their mean place in the order must agree.
    double place[2] = {0, 0};
    int counted[2] = {0, 0};
    double now = 0;
    for (const core::PlannedVisit& visit : core::visitsOf(study)) {
      const int side = static_cast<int>(visit.side);
      counted[side] += visit.passes;
      place[side] += (now + (visit.passes - 1) / 2.0) / 2;
      now += visit.passes;
    }
    EXPECT_EQ(counted[0], passes);
    EXPECT_EQ(counted[1], passes);
    EXPECT_NEAR(place[0], place[1], 1e-12) << passes << " passes";
  }
}

TEST(Schedule, EveryVisitBeginsWithItsWarmUps) {
  core::Study study = readyStudy();
  study.plan = {3, 2, core::Order::Blocked, 60};
  const auto slots = core::scheduleOf(study);
  ASSERT_EQ(slots.size(), 10U);
  EXPECT_TRUE(slots[0].is_warm_up && slots[1].is_warm_up && !slots[2].is_warm_up);
  EXPECT_EQ(slots[5].side, core::Side::Changed);
}

TEST(Wording, ShowsNoMoreThanTheNumbersSay) {
  EXPECT_EQ(core::percentText(4.04), "+4.0 %");
  EXPECT_EQ(core::percentText(-0.421), "\u22120.42 %");
  EXPECT_EQ(core::percentText(-0.001), "0.00 %");
  EXPECT_EQ(core::changeText({0.5, core::PercentInterval{-0.001, 1.5}}), "+0.50 % (0.00 to 1.50)");
  EXPECT_EQ(core::valueText(12.4123, "s"), "12.41 s");
  EXPECT_EQ(core::valueText(71.26, "FPS"), "71.3 FPS");
}

TEST(Wording, SaysATimeInTheUnitsThatAPersonWouldTake) {
  EXPECT_EQ(core::durationText(89), "89 s");
  EXPECT_EQ(core::durationText(90), "2 min");
  EXPECT_EQ(core::durationText(3569), "59 min");
  EXPECT_EQ(core::durationText(3570), "1 h");
  EXPECT_EQ(core::durationText(4800), "1 h 20 min");
  EXPECT_EQ(core::durationText(2 * 3600), "2 h");
}

TEST(Wording, AnErrorSaysWhereWhatAndWhatToDo) {
  const core::Error error{core::ErrorKind::TooFew, "the log is empty", "frames.csv, line 1", "Run longer"};
  EXPECT_EQ(error.sentence(), "frames.csv, line 1: the log is empty. Run longer.");
}

}  // namespace
