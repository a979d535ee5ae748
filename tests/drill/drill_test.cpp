// Kills and power cuts at moments drawn at random, for studies of every shape: nothing is lost, nothing is there twice,
// nothing stays set, and the sheet can be run to its end.
#include "drill/drill.h"

namespace {

using drill::Drill;
using drill::part;

TEST_F(Drill, RunsAloneThroughRestartsAndFaultsAndCatchesEachWhereItHappened) {
  hangs_too_ = true;
  setUpAgain();
  expectItCanBeFinished();
  const store::Recorded all = recorded();
  EXPECT_EQ(fallen_back_, 1) << "the memory fell back in one visit";
  EXPECT_EQ(all.visits.size(), 7U) << "that one had no pass, and was begun anew";
  std::set<std::string> boots;
  for (const core::Visit& visit : all.visits) boots.insert(visit.boot_id);
  EXPECT_EQ(boots.size(), 7U);  // a restart at every flip
  std::vector<std::string> failures;
  for (const core::Pass& pass : all.passes)
    if (pass.status == core::PassStatus::Failed) failures.push_back(pass.failure);
  ASSERT_EQ(failures.size(), 4U) << testing::PrintToString(failures);
  EXPECT_NE(failures[0].find("crashed (signal 11"), std::string::npos) << failures[0];
  EXPECT_NE(failures[1].find("time limit of 8 s"), std::string::npos) << failures[1];
  EXPECT_NE(failures[2].find("frame log, line 4"), std::string::npos) << failures[2];
  EXPECT_NE(failures[3].find("the save would not load"), std::string::npos) << failures[3];
  // No pass was run at a level that was not there, so none is left out, and no stop is in the way.
  const auto judged = core::judgementOf(study_, store::recordOf(all));
  EXPECT_EQ(judged.findings.retired_passes, 0);
  EXPECT_NE(judged.doubts.front().rank, core::DoubtRank::Stop) << judged.doubts.front().sentence;
}

class DrillOf : public Drill, public testing::WithParamInterface<core::Shape> {
 protected:
  DrillOf() {
    study_ = drill::withSetting(drill::sheetOf(GetParam()));
    setUpAgain();
  }
};

TEST_P(DrillOf, LosesNoPassToAKillAtAnyMoment) { killOften(part()); }
TEST_P(DrillOf, LosesNoPassToAPowerCutAtAnyMoment) { cutOften(part()); }

std::string nameOf(const testing::TestParamInfo<core::Shape>& info) { return core::shapeName(info.param); }
INSTANTIATE_TEST_SUITE_P(Shapes, DrillOf,
                         testing::Values(core::Shape::Pair, core::Shape::Ladder, core::Shape::Crossed,
                                         core::Shape::Chain),
                         nameOf);

}  // namespace
