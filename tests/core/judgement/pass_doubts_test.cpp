// Doubts that rest on how passes went: each is said from its edge on, in words that count right.
#include "core/judgement/pass_doubts.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/study/exclusion.h"
#include "support/recorded_study.h"

namespace {

using core::ConfigurationId;
using core::DoubtRank;

/// Three rounds of one case, a little apart, of which a test spoils some.
class PassDoubts : public testing::Test {
 protected:
  PassDoubts() {
    study_ = support::roundsOf(3);
    study_.plan.drawn =
        core::pairRounds({ConfigurationId::Baseline, ConfigurationId::Changed, ConfigurationId::Baseline});
    record();
  }
  void record() {
    recorded_.record([](core::Pass& pass, const core::Slot& slot) {
      pass.value = (slot.configuration == ConfigurationId::Changed ? 105 : 100) + 0.1 * (slot.round % 2) +
                   0.03 * (slot.visit % 3);
    });
  }
  std::optional<core::Doubt> doubt(const std::string& id) {
    const core::Record record = recorded_.recorded();
    for (const core::Doubt& one : core::passDoubts(study_, record, core::findingsOf(study_, record)))
      if (one.id == id) return one;
    return std::nullopt;
  }
  std::string sentence(const std::string& id) {
    const auto found = doubt(id);
    return found ? found->sentence : "not said";
  }

  support::RecordedStudy recorded_;
  core::Study& study_ = recorded_.study;
  std::vector<core::Pass>& passes_ = recorded_.passes;
  core::Record& also_ = recorded_.also;
};

TEST_F(PassDoubts, AreNoneOfAPlainStudy) {
  const core::Record record = recorded_.recorded();
  EXPECT_TRUE(core::passDoubts(study_, record, core::findingsOf(study_, record)).empty());
}

TEST_F(PassDoubts, NameTheFirstLineOfSettingsThatIsNotTheSame) {
  const std::string id = "preset_reset/Ring pass, 4K dome";
  for (core::Pass& pass : passes_) pass.settings = "size=4k\nstars=high\nnebula=on";
  EXPECT_EQ(sentence(id), "not said");
  passes_[0].settings.clear();  // one that could not be read is compared with nothing
  EXPECT_EQ(sentence(id), "not said");
  passes_[3].settings = "size=4k\nstars=low\nnebula=off";
  EXPECT_EQ(sentence(id),
            "Ring pass, 4K dome: its settings were not the same in every pass: in visit 4, line 2: “stars=high” became "
            "“stars=low”");
  passes_[3].settings = "size=4k\nstars=high\nnebula=on\nfog=on";
  EXPECT_NE(sentence(id).find("line 4: “” became “fog=on”"), std::string::npos) << sentence(id);
  passes_[3].settings = "size=4k";
  EXPECT_NE(sentence(id).find("line 2: “stars=high” became “”"), std::string::npos) << sentence(id);
  passes_[3].settings = std::string(80, 'x');
  EXPECT_NE(sentence(id).find("became “" + std::string(60, 'x') + "”"), std::string::npos) << "a long line is cut";
}

TEST_F(PassDoubts, CountTheSettingsThatCouldNotBeRead) {
  const std::string id = "settings_unread/Ring pass, 4K dome";
  EXPECT_EQ(sentence(id), "not said") << "no file was named";
  study_.cases[0].settings_file = "ring.ini";
  for (core::Pass& pass : passes_) pass.settings = "size=4k";
  EXPECT_EQ(sentence(id), "not said");
  passes_[1].settings.clear();
  passes_[2].settings.clear();
  passes_[2].status = core::PassStatus::Failed;  // a pass that failed left none
  EXPECT_EQ(sentence(id), "Ring pass, 4K dome: in 1 of its passes nothing could be read from ring.ini");
}

TEST_F(PassDoubts, OfWhatWasDeclaredDependOnTheMetric) {
  study_.cases[0].declared = {{"generated_frames", "one for each"}, {"automatic_quality", "on"}, {"frame_cap", "off"}};
  EXPECT_TRUE(doubt("generated_frames/Ring pass, 4K dome"));
  EXPECT_TRUE(doubt("automatic_quality/Ring pass, 4K dome"));
  EXPECT_FALSE(doubt("frame_cap/Ring pass, 4K dome"));
  study_.cases[0].metric = {"mean frame time", "ms", core::Direction::LowerIsBetter};
  EXPECT_TRUE(doubt("generated_frames/Ring pass, 4K dome")) << "frames count in their mean too";
  study_.cases[0].metric = {"render time", "s", core::Direction::LowerIsBetter};
  EXPECT_FALSE(doubt("generated_frames/Ring pass, 4K dome")) << "no frames are counted";
}

TEST_F(PassDoubts, LeaveAControlInPeaceThatMovedByNothingThatMatters) {
  const std::string id = "control_moved/Ring pass, 4K dome";
  study_.cases[0].is_control = true;
  EXPECT_TRUE(doubt(id)) << "five percent";
  study_.notice_threshold_percent = 10;
  EXPECT_FALSE(doubt(id)) << "real but negligible";
  study_.notice_threshold_percent = 2;
  for (core::Pass& pass : passes_) pass.value = 100 + 7.0 * static_cast<double>(pass.slot % 3);
  EXPECT_FALSE(doubt(id)) << "not settled at all";
  passes_.clear();
  EXPECT_FALSE(doubt(id));
}

TEST_F(PassDoubts, CountTheBusyPassesAboveTheEdge) {
  for (core::Pass& pass : passes_) pass.others_busy_percent = core::kQuietPercent;
  EXPECT_EQ(sentence("others_at_work"), "not said");
  passes_[0].others_busy_percent = core::kQuietPercent + 0.1;
  passes_[5].others_busy_percent = 90;
  passes_[1].others_busy_percent.reset();
  EXPECT_EQ(sentence("others_at_work"), "Other programs kept more than 20 % of a core busy in 2 of 6 passes");
}

TEST_F(PassDoubts, NameEveryWayInWhichAPictureWasShown) {
  const std::string id = "presented/Ring pass, 4K dome";
  for (core::Pass& pass : passes_)
    pass.presentation = core::Presentation{"Vulkan", "FIFO", "Luma-9", "ring", 1280, 800};
  passes_[2].presentation->width = 1024;
  EXPECT_NE(sentence(id).find("in 5"), std::string::npos) << sentence(id);
  EXPECT_NE(sentence(id).find("1024"), std::string::npos) << sentence(id);
  passes_[2].status = core::PassStatus::Failed;  // what came of a pass that failed says nothing
  EXPECT_EQ(sentence(id), "not said");
  passes_[2].status = core::PassStatus::Finished;
  passes_[2].presentation.reset();  // nor one that we did not record
  EXPECT_EQ(sentence(id), "not said");
}

TEST_F(PassDoubts, CountTypedRangesThatCount) {
  EXPECT_EQ(sentence("typed_ranges"), "not said");
  for (core::Pass& pass : passes_) pass.typed = *core::parseTyped("100.1");
  EXPECT_EQ(sentence("typed_ranges"), "not said");
  passes_[0].typed = *core::parseTyped("100-101");
  EXPECT_EQ(sentence("typed_ranges"), "1 result was typed as a range: less precise");
  passes_[1].typed = *core::parseTyped("104-106");
  EXPECT_EQ(sentence("typed_ranges"), "2 results were typed as a range: less precise");
  passes_[1].excluded_because = core::kTypedWrongly;
  EXPECT_EQ(sentence("typed_ranges"), "1 result was typed as a range: less precise");
}

TEST_F(PassDoubts, AskOfATypedNumberThatIsTenTimesTheOthers) {
  for (core::Pass& pass : passes_) pass.typed = *core::parseTyped("100.1");
  EXPECT_FALSE(doubt("typed/1"));
  passes_[0].value = 1000.1;
  const auto slip = doubt("typed/1");
  ASSERT_TRUE(slip);
  EXPECT_TRUE(slip->sentence.starts_with("Ring pass, 4K dome, visit 1, pass 1: ")) << slip->sentence;
  EXPECT_FALSE(doubt("typed/2"));
}

TEST_F(PassDoubts, CountUpdatesLeftOutPassesAndSkips) {
  also_.updates = {"apt-get"};
  EXPECT_EQ(sentence("updating"), "apt-get was installing software when a pass began");
  also_.updates = {"apt-get", "dpkg"};
  EXPECT_EQ(sentence("updating"), "dpkg was installing software when 2 passes began");
  passes_[0].excluded_because = "power or the link failed for a moment";
  EXPECT_EQ(sentence("excluded"), "1 pass was left out by a person: power or the link failed for a moment");
  passes_[1].excluded_because = "a person or an animal disturbed it";
  EXPECT_EQ(sentence("excluded"), "2 passes were left out by a person: a person or an animal disturbed it");
  also_.skipped = {{4, "no time"}};
  EXPECT_EQ(sentence("skipped"), "1 pass was skipped: no time");
  also_.skipped.push_back({5, "nor here"});
  EXPECT_EQ(sentence("skipped"), "2 passes were skipped: nor here");
}

TEST_F(PassDoubts, SayOfAChangedYardstickWhetherItCameTooLate) {
  also_.judging_changes = {{"threshold 2 % became 1 %: M. Osei asked for it", false}};
  EXPECT_EQ(doubt("judged_otherwise")->rank, DoubtRank::Note);
  EXPECT_FALSE(doubt("judged_after"));
  also_.judging_changes.push_back({"band 3 % became 4 %: the house rule", true});
  EXPECT_EQ(doubt("judged_after")->rank, DoubtRank::Caution);
  EXPECT_NE(sentence("judged_after").find("band 3 %"), std::string::npos);
  EXPECT_FALSE(doubt("judged_otherwise")) << "one of them is enough";
  also_.plan_changes = {"one more round: a door stood open"};
  EXPECT_EQ(sentence("plan_changed"), "The plan was changed: one more round: a door stood open");
}

// A pair names both levels, a ladder only those where a limit set in.
TEST_F(PassDoubts, SayWhereALimitSetIn) {
  passes_[1].throttled = 2;
  passes_[2].throttled = 0;
  EXPECT_EQ(sentence("throttled"), "A heat or power limit set in during 0 passes at 4800 MT/s and 1 at 6000 MT/s");
  study_ = support::ladderOf(3, 1);
  record();
  EXPECT_EQ(sentence("throttled"), "not said");
  int spoiled = 0;
  const auto schedule = core::scheduleOf(study_);
  for (core::Pass& pass : passes_)
    if (core::placeOf(schedule[pass.slot].configuration) == 2 && spoiled++ < 2) pass.throttled = 1;
  EXPECT_EQ(sentence("throttled"), "A heat or power limit set in during 2 passes at Gen 3");
}

TEST_F(PassDoubts, AskForATestOfEachLevelThatHasHadNone) {
  study_.variable().kind = "memory_speed";
  also_.stable = {ConfigurationId::Baseline};
  EXPECT_FALSE(doubt("untested/baseline"));
  EXPECT_EQ(sentence("untested/changed"), "Nobody has tested 6000 MT/s for errors");
  study_.is_null = true;
  EXPECT_FALSE(doubt("untested/changed")) << "a null study leaves its level";
  study_.is_null = false;
  passes_.clear();
  EXPECT_FALSE(doubt("untested/changed")) << "before the first pass nothing is due";
  study_ = support::ladderOf(3, 1);
  study_.variable().kind = "memory_speed";
  record();
  EXPECT_TRUE(doubt("untested/Gen 2")) << "of more than two, by its name";
}

TEST_F(PassDoubts, KnowABatteryFromAPlug) {
  core::VisitCapture capture{1, core::CaptureMoment::Start, {}};
  for (const auto& [name, value] : {std::pair{"power/BAT0/online", "1"}, std::pair{"power/AC/type", "0"}}) {
    core::Fact fact;
    fact.name = name;
    fact.value = value;
    capture.capture.put(fact);
  }
  std::vector captures{capture};
  also_.captures = captures;
  EXPECT_FALSE(doubt("on_battery"));
  core::Fact mains;
  mains.name = "power/AC/online";
  mains.value = "0";
  captures[0].capture.put(mains);
  also_.captures = captures;
  EXPECT_TRUE(doubt("on_battery"));
}

}  // namespace
