#include "core/proof.h"

#include <gtest/gtest.h>

#include "core/judgement.h"
#include "support/studies.h"

namespace {

using core::CaptureMoment;
using core::Side;

/// A study of four visits, there and back, with what the machine said at each.
class Proofs : public testing::Test {
 protected:
  Proofs() {
    study_.kind = "memory_speed";
    study_.plan.order = core::Order::ThereAndBack;
    const Side sides[] = {Side::Baseline, Side::Changed, Side::Changed, Side::Baseline};
    for (int i = 0; i < 4; ++i) {
      visits_.push_back({i + 1, i + 1, i / 2 + 1, sides[i], "boot-" + std::to_string(i), 0});
      say(i + 1, CaptureMoment::Start, sides[i] == Side::Baseline ? "4800" : "6000");
    }
  }
  void say(std::int64_t visit, CaptureMoment moment, const std::string& mts, const std::string& width = "16") {
    core::Capture capture;
    capture.boot_id = "boot-" + std::to_string(visit - 1);
    for (const auto& [name, value] : {std::pair<std::string, std::string>{"dmi/memory/DIMM_A2/configured_speed", mts},
                                      {"pci/0000:00:01.0/current_link_width", width}}) {
      core::Fact fact;
      fact.name = name;
      fact.value = value;
      fact.number = std::stod(value);
      capture.put(fact);
    }
    std::erase_if(captures_,
                  [&](const core::VisitCapture& one) { return one.visit_id == visit && one.moment == moment; });
    captures_.push_back({visit, moment, capture});
  }
  [[nodiscard]] core::BenchProof prove() const { return core::proveBench(study_, visits_, captures_); }
  [[nodiscard]] std::vector<std::string> stops() const {
    std::vector<std::string> ids;
    core::Pass pass;
    pass.visit_id = 1;
    pass.value = 60;
    const std::vector<core::Pass> passes{pass};
    for (const core::Doubt& doubt : core::judgementOf(study_, visits_, passes, captures_, {}).doubts)
      if (doubt.rank == core::DoubtRank::Stop) ids.push_back(doubt.id);
    return ids;
  }
  core::Study study_ = support::studyOf({"true"});
  std::vector<core::Visit> visits_;
  std::vector<core::VisitCapture> captures_;
};

TEST_F(Proofs, ArePlainWhenOnlyTheVariableMoved) {
  const core::BenchProof proof = prove();
  ASSERT_TRUE(proof.levels);
  EXPECT_TRUE(proof.levels->isValidPair()) << proof.levels->reason;
  EXPECT_TRUE(core::retiredVisits(proof, {}).empty());
  EXPECT_TRUE(stops().empty());
}

TEST_F(Proofs, RetireTheVisitThatIsUnlikeItsLevelUntilAccepted) {
  say(3, CaptureMoment::Start, "6000", "8");
  const core::BenchProof proof = prove();
  EXPECT_TRUE(proof.levels->isValidPair());  // the level is judged by the visit without the accident
  EXPECT_EQ(core::retiredVisits(proof, {}), std::vector<std::int64_t>{3});
  const std::vector<std::pair<std::string, std::string>> accepted{{core::unlikeItsLevelId(proof.visits[2]), "known"}};
  EXPECT_TRUE(core::retiredVisits(proof, accepted).empty());
}

TEST_F(Proofs, JudgeALevelByItsBestVisitWhicheverCameFirst) {
  say(2, CaptureMoment::Start, "6000", "8");
  EXPECT_EQ(core::retiredVisits(prove(), {}), std::vector<std::int64_t>{2});
}

TEST_F(Proofs, StopWhenTheVariableDidNotMove) {
  for (const int visit : {2, 3}) say(visit, CaptureMoment::Start, "4800");
  EXPECT_EQ(stops(), std::vector<std::string>{"did_not_move"});
}

TEST_F(Proofs, StopWhenSomethingElseMovedWithTheLevel) {
  for (const int visit : {2, 3}) say(visit, CaptureMoment::Start, "6000", "8");
  EXPECT_EQ(stops(), std::vector<std::string>{"also_changed"});
}

TEST_F(Proofs, StopWhenALevelDidNotHold) {
  say(2, CaptureMoment::End, "4800");
  EXPECT_EQ(stops(), std::vector<std::string>{"not_held/visit 2"});
}

TEST_F(Proofs, TrustTheCaptureUnderLoad) {
  for (const int visit : {2, 3}) say(visit, CaptureMoment::Start, "6000", "4");  // asleep before the first pass
  for (const int visit : {1, 2, 3, 4}) say(visit, CaptureMoment::UnderLoad, visit == 2 || visit == 3 ? "6000" : "4800");
  EXPECT_TRUE(stops().empty());
}

TEST_F(Proofs, StopWhenTheOtherDeviceRendered) {
  core::Capture loaded = captures_[1].capture;  // the changed level, while a pass runs
  for (const auto& [device, busy] : {std::pair{"0000:00:02.0", 97.0}, std::pair{"0000:03:00.0", 2.0}}) {
    core::Fact load;
    load.name = std::string("pci/") + device + "/gpu_busy_percent";
    load.kind = core::FactKind::Volatile;
    load.number = busy;
    loaded.put(load);
  }
  captures_.push_back({2, CaptureMoment::UnderLoad, loaded});
  study_.device = "0000:03:00.0";
  EXPECT_EQ(stops(), std::vector<std::string>{"other_device/visit 2"});
  study_.device = "0000:00:02.0";
  EXPECT_TRUE(stops().empty());
}

TEST_F(Proofs, AreSilentWithoutADeclaredKind) {
  study_.kind.clear();
  EXPECT_FALSE(prove().is_declared);
  EXPECT_TRUE(stops().empty());
}

}  // namespace
