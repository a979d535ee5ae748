#include "core/proof/proof.h"

#include <gtest/gtest.h>

#include "core/judgement/judgement.h"
#include "support/studies.h"

namespace {

using core::CaptureMoment;
using core::ConfigurationId;

/// A study of four visits, there and back, with what the machine said at each.
class Proofs : public testing::Test {
 protected:
  Proofs() {
    study_.variable().kind = "memory_speed";
    study_.plan.order = core::Order::ThereAndBack;
    const ConfigurationId sides[] = {ConfigurationId::Baseline, ConfigurationId::Changed, ConfigurationId::Changed,
                                     ConfigurationId::Baseline};
    for (int i = 0; i < 4; ++i) {
      visits_.push_back({i + 1, i + 1, i / 2 + 1, sides[i], "boot-" + std::to_string(i), 0});
      say(i + 1, CaptureMoment::Start, sides[i] == ConfigurationId::Baseline ? "4800" : "6000");
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
  /// Two modules of 16 GiB: with their rate they make the peak of main memory.
  void addModuleSizes() {
    for (core::VisitCapture& one : captures_)
      for (const auto& [name, value] :
           {std::pair{"dmi/memory/DIMM_A2/size", 16.0 * (1 << 30)}, std::pair{"dmi/memory/DIMM_A2/data_width", 64.0}}) {
        core::Fact fact;
        fact.name = name;
        fact.value = std::to_string(value);
        fact.number = value;
        one.capture.put(fact);
      }
  }
  void measure(std::int64_t visit, CaptureMoment moment, std::vector<double> read_GBps) {
    measurements_.push_back({visit, moment, {{"read_GBps", {std::move(read_GBps)}}}, {}});
  }
  [[nodiscard]] core::Record record(const std::vector<core::Pass>& passes = {}) const {
    return {visits_, passes, captures_, measurements_, {}, {}, {}};
  }
  [[nodiscard]] core::BenchProof prove() const { return core::proveBench(study_, record()); }
  [[nodiscard]] std::vector<core::Doubt> doubts() const {
    core::Pass pass;
    pass.visit_id = 1;
    pass.value = 60;
    const std::vector<core::Pass> passes{pass};
    return core::judgementOf(study_, record(passes)).doubts;
  }
  [[nodiscard]] std::vector<std::string> stops() const {
    std::vector<std::string> ids;
    for (const core::Doubt& doubt : doubts())
      if (doubt.rank == core::DoubtRank::Stop) ids.push_back(doubt.id);
    return ids;
  }
  /// The sentence of a doubt below a stop; empty where there is none of that id.
  [[nodiscard]] std::string remark(const std::string& id) const {
    for (const core::Doubt& doubt : doubts())
      if (doubt.id == id && doubt.rank != core::DoubtRank::Stop) return doubt.sentence;
    return "";
  }
  core::Study study_ = support::studyOf({"true"});
  std::vector<core::Visit> visits_;
  std::vector<core::VisitCapture> captures_;
  std::vector<core::VisitMeasurement> measurements_;
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
  const std::vector<std::pair<std::string, std::string>> accepted{
      {core::visitDoubtId(core::kUnlikeItsLevelId, proof.visits[2].visit_id), "known"}};
  EXPECT_TRUE(core::retiredVisits(proof, accepted).empty());
}

TEST_F(Proofs, JudgeALevelByItsBestVisitWhicheverCameFirst) {
  say(2, CaptureMoment::Start, "6000", "8");
  EXPECT_EQ(core::retiredVisits(prove(), {}), std::vector<std::int64_t>{2});
}

TEST_F(Proofs, StopWhenTheVariableDidNotMove) {
  for (const int visit : {2, 3}) say(visit, CaptureMoment::Start, "4800");
  EXPECT_EQ(stops(),
            (std::vector<std::string>{"did_not_move", "level_not_reached/visit 2", "level_not_reached/visit 3"}));
}

TEST_F(Proofs, StopWhenSomethingElseMovedWithTheLevel) {
  for (const int visit : {2, 3}) say(visit, CaptureMoment::Start, "6000", "8");
  EXPECT_EQ(stops(), std::vector<std::string>{"also_changed"});
}

// Of many things the first three stand in the sentence, and the rest is counted.
TEST_F(Proofs, CountWhatElseMovedBeyondThree) {
  const auto said = [this](int also) {
    for (core::VisitCapture& one : captures_)
      for (int i = 0; i < also; ++i) {
        core::Fact fact;
        fact.name = "kernel/setting" + std::to_string(i);
        fact.value = one.visit_id == 2 || one.visit_id == 3 ? "1" : "0";
        one.capture.put(fact);
      }
    for (const core::Doubt& doubt : doubts())
      if (doubt.id == "also_changed") return doubt.sentence;
    return std::string();
  };
  EXPECT_EQ(said(3).find("more"), std::string::npos) << said(3);
  EXPECT_TRUE(said(5).ends_with("; and 2 more")) << said(5);
}

TEST_F(Proofs, StopWhereWhatMustChangeCannotBeRead) {
  for (core::VisitCapture& one : captures_)
    for (core::Fact& fact : one.capture.facts)
      if (fact.name.ends_with("configured_speed")) fact.status = core::FactStatus::Denied;
  EXPECT_EQ(prove().verdict, core::ProofVerdict::CannotTell);
  EXPECT_EQ(stops(), std::vector<std::string>{"not_proved"});
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

TEST_F(Proofs, StopWhenTheOtherDeviceRenderedInAnyPass) {
  study_.variable().device = "0000:03:00.0";
  std::vector<core::Pass> passes(3);
  for (core::Pass& pass : passes) pass.visit_id = 2;
  passes[0].loads = {{"0000:00:02.0", 1}, {"0000:03:00.0", 98}};
  passes[1].loads = {{"0000:00:02.0", 97}, {"0000:03:00.0", 2}};
  const auto elsewhere = [&] { return core::proveBench(study_, record(passes)).visits[1].rendered_elsewhere; };
  EXPECT_EQ(elsewhere(), "0000:00:02.0 was 97 % busy, 0000:03:00.0 2 %");
  study_.variable().device = "0000:00:02.0";
  EXPECT_EQ(elsewhere(), "0000:03:00.0 was 98 % busy, 0000:00:02.0 1 %");
  passes[0].loads.clear();
  EXPECT_EQ(elsewhere(), "");
  const auto judged = core::judgementOf(study_, record(passes));
  EXPECT_TRUE(std::none_of(judged.doubts.begin(), judged.doubts.end(),
                           [](const auto& doubt) { return doubt.id.starts_with("other_device"); }));
}

TEST_F(Proofs, BelieveWhatWasReadOnlyWhereTheMeasurementDoesNotSpeakAgainstIt) {
  addModuleSizes();
  measure(1, CaptureMoment::Start, {31.1, 31.4, 30.9, 31.2, 31.1});
  measure(2, CaptureMoment::Start, {31.1, 31.0, 31.3, 31.1, 31.0});  // reads 6000, yields what 4800 yields
  const core::BenchProof proof = prove();
  EXPECT_TRUE(proof.levels->isValidPair());
  EXPECT_EQ(proof.verdict, core::ProofVerdict::CannotTell);
  EXPECT_EQ(proof.reason,
            "what was read moved, but measured memory read: ×1.00 (0.99 to 1.00) where ×1.25 is expected: another "
            "bottleneck, or the setting did not take effect");
  EXPECT_EQ(stops(), std::vector<std::string>{"measured_otherwise"});
  measurements_[1].readings[0].measured.values = {38.9, 39.0, 38.7, 39.2, 38.9};
  EXPECT_EQ(prove().verdict, core::ProofVerdict::MovedAsDeclared);
  EXPECT_EQ(prove().decidingStep()->agreement, core::Agreement::Agrees);
  EXPECT_TRUE(stops().empty());
}

TEST_F(Proofs, SayThatTheSettingMovedElsewhere) {
  study_.variable().kind = "pcie_width";
  study_.variable().device = "0000:03:00.0";
  for (const int visit : {2, 3}) say(visit, CaptureMoment::Start, "4800", "8");  // of a port that leads elsewhere
  for (core::VisitCapture& one : captures_)
    for (const auto& [name, value] : {std::pair{"chain", "0000:00:02.0 0000:03:00.0"}, {"current_link_width", "16"}}) {
      core::Fact fact;
      fact.name = std::string("pci/0000:03:00.0/") + name;
      fact.value = value;
      one.capture.put(fact);
    }
  EXPECT_EQ(prove().verdict, core::ProofVerdict::MovedElsewhere);
  EXPECT_EQ(stops(), (std::vector<std::string>{"moved_elsewhere", "also_changed"}));
}

TEST_F(Proofs, DoubtALevelThatSaggedUnderLoad) {
  measure(2, CaptureMoment::Start, {78.0, 77.5, 78.3});
  measure(2, CaptureMoment::End, {61.0, 60.8, 61.4});
  EXPECT_EQ(prove().visits[1].sagged,
            "measured memory read went from 78.0 GB/s (77.5 to 78.3 in 3 measurements) to 61.0 GB/s (60.8 to 61.4 in 3 "
            "measurements)");
  measurements_[1].readings[0].measured.values = {74.0, 73.8, 74.2};  // five percent: the noise of a measurement
  EXPECT_TRUE(prove().visits[1].sagged.empty());
}

TEST_F(Proofs, DoubtAMeasurementOfMoreThanCanBe) {
  addModuleSizes();
  measure(1, CaptureMoment::Start, {140, 141, 139});
  EXPECT_EQ(prove().visits[0].too_much,
            "measured memory read is 140.0 GB/s (139.0 to 141.0 in 3 measurements), more than the 38.4 GB/s that "
            "are possible (peak)");
}

TEST_F(Proofs, WarnWhereTheWayHasANarrowerNeckElsewhere) {
  study_.variable().kind = "pcie_width";
  study_.variable().device = "0000:05:00.0";
  const auto addPath = [&](std::int64_t visit, const char* slot_width) {
    const std::pair<std::string, std::string> facts[] = {
        {"0000:05:00.0/chain", "0000:00:02.0 0000:03:00.0 0000:04:00.0 0000:05:00.0"},
        {"0000:00:02.0/current_link_width", "4"},
        {"0000:03:00.0/current_link_width", "4"},
        {"0000:04:00.0/current_link_width", slot_width},
        {"0000:05:00.0/current_link_width", slot_width},
        {"0000:00:02.0/current_link_speed", "8.0 GT/s"},
        {"0000:03:00.0/current_link_speed", "8.0 GT/s"},
        {"0000:04:00.0/current_link_speed", "16.0 GT/s"},
        {"0000:05:00.0/current_link_speed", "16.0 GT/s"}};
    for (core::VisitCapture& one : captures_)
      for (const auto& [name, value] : facts) {
        if (one.visit_id != visit) continue;
        core::Fact fact;
        fact.name = "pci/" + name;
        fact.value = value;
        fact.number = std::atof(value.c_str());
        one.capture.put(fact);
      }
  };
  for (const int visit : {1, 4}) addPath(visit, "16");
  for (const int visit : {2, 3}) addPath(visit, "8");
  EXPECT_EQ(prove().other_neck, "0000:00:02.0 to 0000:03:00.0 (Gen 3 x4, 3.9 GB/s)");
  EXPECT_NE(remark("narrower_elsewhere").find("Gen 3 x4, 3.9 GB/s) is, so no effect"), std::string::npos);
}

TEST_F(Proofs, DoubtAMeasurementThatScattersTooMuchToShowTheStep) {
  addModuleSizes();
  measure(1, CaptureMoment::Start, {31.1, 24.0, 38.0, 29.0, 33.0});
  measure(2, CaptureMoment::Start, {38.9, 30.0, 45.0, 33.0, 41.0});
  EXPECT_EQ(prove().decidingStep()->agreement, core::Agreement::TooNoisy);
  EXPECT_NE(remark("measured_too_noisy").find("cannot show that the memory speed moved"), std::string::npos);
  measurements_[0].readings[0].measured.values = {31.1, 31.2, 31.0, 31.1, 31.1};
  measurements_[1].readings[0].measured.values = {38.9, 39.0, 38.8, 38.9, 38.9};
  EXPECT_EQ(remark("measured_too_noisy"), "");
}

TEST_F(Proofs, NoteMemoryThatRunsAboveItsRatingAndAtWhichLevel) {
  for (core::VisitCapture& one : captures_) {
    core::Fact rated;
    rated.name = "dmi/memory/DIMM_A2/rated_speed";
    rated.value = "5600 MT/s";
    rated.number = 5600;
    one.capture.put(rated);
  }
  EXPECT_EQ(remark("memory_rating/1"), "At 6000 MT/s: memory runs at 6000 MT/s, above its rating of 5600 MT/s");
  EXPECT_EQ(remark("memory_rating/2"), "") << "which rate runs below it is the question itself";
}

TEST_F(Proofs, NoteThatALevelWasNotMeasuredAndWhy) {
  measurements_.push_back({1, CaptureMoment::Start, {}, "measuring: there is no Vulkan device"});
  EXPECT_EQ(prove().visits[0].unmeasured, "measuring: there is no Vulkan device");
  EXPECT_TRUE(prove().measured.empty());
  EXPECT_TRUE(stops().empty());  // what was read stands alone
}

TEST_F(Proofs, AreSilentWithoutADeclaredKind) {
  study_.variable().kind.clear();
  EXPECT_FALSE(prove().is_declared);
  EXPECT_TRUE(stops().empty());
}

}  // namespace
