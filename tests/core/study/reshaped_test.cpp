// A question asked in another shape, with more levels or fewer, stays one that can be asked.
#include "core/study/reshaped.h"

#include <gtest/gtest.h>

#include "core/study/study.h"
#include "support/studies.h"

namespace {

using core::Shape;

std::vector<core::Study> everyShape() {
  return {support::studyOf({"true"}), support::ladderOf(), support::crossedOf(), support::chainOf()};
}

TEST(Reshaped, FromAnyShapeToAnyOtherHoldsTogether) {
  for (const core::Study& from : everyShape())
    for (const Shape shape : {Shape::Pair, Shape::Ladder, Shape::Crossed, Shape::Chain}) {
      const core::Study study = core::reshaped(from, shape);
      const std::string what =
          std::to_string(static_cast<int>(from.shape)) + " to " + std::to_string(static_cast<int>(shape));
      EXPECT_EQ(study.shape, shape) << what;
      EXPECT_TRUE(core::shapeProblems(study).empty()) << what << ": " << core::shapeProblems(study).front().sentence();
      if (shape == Shape::Crossed) {
        EXPECT_EQ(study.variables.size(), 2U) << what;
      }
      if (shape == Shape::Chain && from.shape != Shape::Chain) {
        EXPECT_EQ(study.variables.size(), 2U) << what;
        EXPECT_EQ(study.configurations.size(), 2U) << what;
        EXPECT_EQ(core::movedBetween(study, core::configurationAt(0), core::configurationAt(1)).size(), 1U) << what;
      }
      for (const core::RoundOrder& round : study.plan.drawn)
        EXPECT_EQ(round.size(), study.configurationCount()) << what;
      EXPECT_EQ(study.cases, from.cases) << what;
    }
}

TEST(Reshaped, ToAPairKeepsTheBaselineAndTheOtherEnd) {
  core::Study ladder = support::ladderOf();
  ladder.variable().baseline = 1;
  core::Study pair = core::reshaped(ladder, Shape::Pair);
  EXPECT_EQ(pair.variable().levels[0].name, "Gen 2");
  EXPECT_EQ(pair.variable().levels[1].name, "Gen 4");
  ladder.variable().baseline = 3;  // the last itself
  pair = core::reshaped(ladder, Shape::Pair);
  EXPECT_EQ(pair.variable().levels[0].name, "Gen 4");
  EXPECT_EQ(pair.variable().levels[1].name, "Gen 1");
}

// A drawn order is a plan that people have seen: it is drawn anew only where it no longer fits.
TEST(Reshaped, KeepsTheDrawnRoundsWhereTheyFit) {
  core::Study ladder = support::ladderOf();
  std::swap(ladder.plan.drawn[0], ladder.plan.drawn[1]);  // as nothing would draw it
  EXPECT_EQ(core::redrawn(ladder).plan.drawn, ladder.plan.drawn);
  EXPECT_EQ(core::reshaped(ladder, Shape::Ladder), ladder);
  const core::Study longer = core::withLevelAdded(ladder, 0);
  ASSERT_EQ(longer.configurationCount(), 5U);
  for (const core::RoundOrder& round : longer.plan.drawn) EXPECT_EQ(round.size(), 5U);
}

TEST(Reshaped, TakesNoMoreLevelsThanAStudyMayHave) {
  core::Study ladder = support::ladderOf();
  for (int i = 0; i < 20; ++i) ladder = core::withLevelAdded(ladder, 0);
  EXPECT_EQ(ladder.variable().levels.size(), 12U);
  EXPECT_TRUE(core::shapeProblems(ladder).empty());
  for (int i = 0; i < 20; ++i) ladder = core::withLevelRemoved(ladder, 0, 0);
  EXPECT_TRUE(core::shapeProblems(ladder).empty());
  EXPECT_LT(ladder.variable().baseline, ladder.variable().levels.size());
}

TEST(Reshaped, FollowsABaselineThatIsRaised) {
  core::Study ladder = support::ladderOf();
  ladder.variable().baseline = 1;
  const core::Study raised = core::withLevelRaised(ladder, 0, 1);
  EXPECT_EQ(raised.variable().levels[0].name, "Gen 2");
  EXPECT_EQ(raised.variable().baseline, 0U);
  const core::Study other = core::withLevelRaised(ladder, 0, 2);
  EXPECT_EQ(other.variable().levels[1].name, "Gen 3");
  EXPECT_EQ(other.variable().levels[other.variable().baseline].name, "Gen 2");
}

}  // namespace
