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

TEST(Reshaped, GoesOnwardStepByStepAndCallsEachByItsLevel) {
  core::Study pair = support::studyOf({"true"});
  pair.variable().levels[0].name = "x16";
  pair.variable().levels[1].name = "x4";
  core::Study chain = core::withVariableAdded(core::reshaped(pair, Shape::Chain));
  ASSERT_EQ(chain.variables.size(), 3U);
  EXPECT_EQ(chain.variables[2].name, core::givenVariableName(2));
  chain = core::withStepAdded(core::withStepAdded(chain));
  ASSERT_EQ(chain.configurations.size(), 4U);
  const std::vector<std::vector<std::size_t>> onward{{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {1, 1, 1}};
  for (std::size_t i = 0; i < onward.size(); ++i) EXPECT_EQ(chain.configurations[i].levels, onward[i]);
  EXPECT_EQ(chain.configurations[1].name, "x4");
  EXPECT_EQ(chain.configurations[2].name, "on");
  EXPECT_EQ(chain.configurations[3].name, "step 3");  // "on" is another one
  // Whoever is called by a level is called by it also when it is called otherwise; a name of its own stays.
  core::Level dock = chain.variables[1].levels[1];
  dock.name = "Tarn dock";
  chain = core::withLevel(chain, 1, 1, dock);
  EXPECT_EQ(chain.configurations[2].name, "Tarn dock");
  EXPECT_EQ(chain.configurations[3].name, "step 3");
  EXPECT_TRUE(core::shapeProblems(chain).empty()) << core::shapeProblems(chain).front().sentence();
  // At the end of the way it turns back to what was passed over, and ends where every step is listed.
  core::Study all = chain;
  for (int i = 0; i < 10; ++i) all = core::withStepAdded(all);
  for (std::size_t i = 1; i < all.configurations.size(); ++i)
    EXPECT_EQ(core::movedBetween(all, core::configurationAt(i - 1), core::configurationAt(i)).size(), 1U);
  EXPECT_EQ(core::withStepAdded(all), all);
}

TEST(Reshaped, KeepsAnOrderGroupedByAVariableThatIsRenamed) {
  core::Study study = support::crossedOf();
  study.plan.grouped_by = study.variables[1].name;
  study = core::withName(study, 1, "aperture");
  EXPECT_EQ(study.plan.grouped_by, "aperture");
  EXPECT_EQ(core::withName(study, 0, "link").plan.grouped_by, "aperture");
}

}  // namespace
