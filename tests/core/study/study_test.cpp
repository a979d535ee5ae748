#include "core/study/study.h"

#include <gtest/gtest.h>

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

}  // namespace
