#include "core/record/step_search.h"

#include <gtest/gtest.h>

#include "support/studies.h"

namespace {

using core::StepPhase;

class StepSearches : public testing::Test {
 protected:
  StepSearches() {
    study_ = support::ladderOf();
    study_.stability_command = {"test"};
  }
  /// Goes on until the search is over; steps up to `holds` hold at first, and `later` once one has failed.
  std::optional<core::ConfigurationId> searched(std::size_t holds, std::size_t later) {
    told_.clear();
    for (int i = 0; i < 100; ++i) {
      const core::StepSearch search = core::stepSearchOf(study_, told_);
      if (search.isOver()) return search.highest;
      const std::size_t most = search.is_coming_down ? later : holds;
      const bool is_fine = core::placeOf(*search.next) < most;
      told_.push_back({*search.next, StepPhase::Setting, "boot"});
      told_.push_back({*search.next, StepPhase::Testing, "boot"});
      told_.push_back({*search.next, is_fine ? StepPhase::Held : StepPhase::Failed, is_fine ? "no error" : "3 errors"});
    }
    ADD_FAILURE() << "it never ends";
    return {};
  }
  core::Study study_;
  std::vector<core::StepTried> told_;
};

TEST_F(StepSearches, GoUpAndComeDownUntilOneHoldsOnceMore) {
  EXPECT_EQ(searched(3, 3), core::configurationAt(2));
  const std::vector<std::string> story = core::searchStory(study_, told_);
  ASSERT_EQ(story.size(), 5U) << "three up, one that fails, and the last that held once more";
  EXPECT_EQ(story[3], "Gen 4 failed: 3 errors");
  EXPECT_EQ(story[4], "Gen 3 held: no error");
  EXPECT_EQ(core::searchText(study_, told_), "The highest stable step is Gen 3");
}

TEST_F(StepSearches, DoNotTrustAStepThatHeldOnlyOnce) {
  EXPECT_EQ(searched(3, 1), core::configurationAt(0)) << "Gen 3 and Gen 2 fail on the way down";
  EXPECT_EQ(searched(3, 0), std::nullopt);
  EXPECT_EQ(core::searchText(study_, told_), "No step is stable, not even the weakest");
  EXPECT_EQ(searched(0, 0), std::nullopt);
  EXPECT_EQ(searched(4, 4), core::configurationAt(3)) << "the highest there is";
}

TEST_F(StepSearches, BeginAtTheBaseline) {
  study_.variable().baseline = 2;
  EXPECT_EQ(core::stepSearchOf(study_, {}).next, core::configurationAt(2));
  EXPECT_EQ(searched(2, 2), core::configurationAt(1)) << "below it where it does not hold itself";
}

TEST_F(StepSearches, NeedATestAndOneVariable) {
  EXPECT_TRUE(core::searchProblems(study_).empty());
  study_.stability_command.clear();
  EXPECT_EQ(core::searchProblems(study_).front().kind, core::ErrorKind::Missing);
  core::Study crossed = support::crossedOf();
  crossed.stability_command = {"test"};
  EXPECT_FALSE(core::searchProblems(crossed).empty());
}

}  // namespace
