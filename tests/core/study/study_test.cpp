#include "core/study/study.h"

#include <gtest/gtest.h>

#include "core/estimate/wording.h"
#include "core/study/schedule.h"
#include "support/studies.h"

namespace {

core::Study readyStudy() { return support::studyOf({"iron-lever-probe", "scene", "--out", "{log}"}, 5); }

TEST(Schedule, ThereAndBackCancelsASteadyDrift) {
  for (int passes = 2; passes <= 9; ++passes) {
    core::Study study = readyStudy();
    study.plan = {passes, 1, core::Order::ThereAndBack, 60};
    // The estimator compares means of visit means: their mean place in the order must agree.
    double place[2] = {0, 0};
    int counted[2] = {0, 0};
    double now = 0;
    for (const core::PlannedVisit& visit : core::visitsOf(study)) {
      const int configuration = static_cast<int>(visit.configuration);
      counted[configuration] += visit.passes;
      place[configuration] += (now + (visit.passes - 1) / 2.0) / 2;
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
  EXPECT_EQ(slots[5].configuration, core::ConfigurationId::Changed);
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
