// What a finding does not rest on, and how many frames hold which rate.
#include <vector>

#include <gtest/gtest.h>

#include "core/findings/rounds_left_out.h"
#include "core/findings/secondary.h"
#include "support/recorded_study.h"

namespace {

class LeftOutRounds : public testing::Test {
 protected:
  LeftOutRounds() { recorded_.recordRates({60, 63}); }
  std::string text() const { return core::roundsLeftOutText(recorded_.findings().cases[0]); }
  core::Pass& passAt(int round, core::ConfigurationId at) {
    const auto schedule = core::scheduleOf(recorded_.study);
    for (core::Pass& pass : recorded_.passes)
      if (schedule[pass.slot].round == round && schedule[pass.slot].configuration == at) return pass;
    throw std::logic_error("no such pass");
  }
  support::RecordedStudy recorded_{support::roundsOf(5, 1)};
};

TEST_F(LeftOutRounds, AreNamedWithTheReason) {
  EXPECT_EQ(text(), "");
  passAt(2, core::ConfigurationId::Changed).excluded_because = "an update ran";
  core::Pass& failed = passAt(4, core::ConfigurationId::Baseline);
  failed.status = core::PassStatus::Failed;
  failed.value.reset();
  EXPECT_EQ(text(), "Round 2 is left out: an update ran. Round 4 is left out: failed.");
}

TEST_F(LeftOutRounds, AreNotThoseThatAreStillToCome) {
  recorded_.passes.resize(7);  // round 4 is half done, round 5 not begun
  EXPECT_EQ(text(), "");
  recorded_.also.is_stopped_at_look = true;  // then it will not be done
  EXPECT_EQ(text(), "Round 4 is left out: no pass at " +
                        recorded_.study.nameOf(core::scheduleOf(recorded_.study)[7].configuration) + ".");
}

TEST_F(LeftOutRounds, ThatAPersonSkippedSayTheirWords) {
  const std::size_t slot = passAt(3, core::ConfigurationId::Changed).slot;
  std::erase_if(recorded_.passes, [&](const core::Pass& pass) { return pass.slot == slot; });
  recorded_.also.skipped = {{slot, "the hall was needed"}};
  EXPECT_EQ(text(), "Round 3 is left out: the hall was needed.");
}

TEST(Targets, AreHeldByAShareOfTheFramesEach) {
  core::Case a_case;
  const std::vector<double> frame_ms{10, 1000.0 / 60, 20, 1000.0 / 30, 50};
  const auto summary = core::summarizeFrames(frame_ms, a_case, std::vector{60.0, 30.0});
  ASSERT_TRUE(summary);
  EXPECT_EQ(summary->holding_percent, (std::vector{40.0, 80.0}));  // a frame exactly at a target holds it
}

TEST(Targets, BesideTheFirstAreJudgedAtBothLevels) {
  support::RecordedStudy recorded{support::roundsOf(5, 2)};
  recorded.study.target_fps = 61;
  recorded.study.further_targets_fps = {30, 120};
  recorded.recordRates({60, 63}, 0.0005);
  const core::CaseFinding finding = recorded.findings().cases[0];
  EXPECT_EQ(finding.holds_baseline, core::HoldsTarget::Fails);
  EXPECT_EQ(finding.holds_changed, core::HoldsTarget::Holds);
  ASSERT_EQ(finding.further_targets.size(), 2U);
  EXPECT_EQ(finding.further_targets[0].holds[0], core::HoldsTarget::Holds);
  EXPECT_EQ(finding.further_targets[1].holds[1], core::HoldsTarget::Fails);
}

TEST(Targets, ThatAreNamedTwiceAreRefused) {
  core::Study study = support::roundsOf(5);
  study.further_targets_fps = {30, 120};
  EXPECT_TRUE(core::problemsOf(study).empty());
  study.further_targets_fps = {60};
  EXPECT_FALSE(core::problemsOf(study).empty());
  study.further_targets_fps = {-5};
  EXPECT_FALSE(core::problemsOf(study).empty());
}

}  // namespace
