// Is a level what it is called, was its flip performed, and is what a tester holds equal equal?
#include <gtest/gtest.h>

#include <algorithm>

#include "core/judgement/judgement.h"
#include "core/machine/difference_sentences.h"
#include "core/machine/held_conditions.h"
#include "core/machine/variable_kind.h"
#include "core/record/performed_flips.h"
#include "core/study/expected_reading.h"
#include "support/recorded_study.h"

namespace {

using core::ConfigurationId;

core::Fact readFact(const std::string& name, const std::string& value, const std::string& unit = "",
                    std::optional<double> number = {}) {
  core::Fact made;
  made.name = name;
  made.value = value;
  made.unit = unit;
  made.number = number;
  return made;
}

core::Fact memoryAt(double mts) {
  return readFact("dmi/memory/DIMM_A2/configured_speed", std::to_string(static_cast<int>(mts)), "MT/s", mts);
}

std::string proposed(const char* kind, const char* name) {
  const auto reading = core::proposedReading(kind, name);
  return reading ? reading->fact + " = " + reading->value : "";
}

TEST(LevelNames, LetExpectWhatTheirNumberSays) {
  EXPECT_EQ(proposed("pcie_generation", "Gen 4"), "pci/{slot}/current_link_speed = 16.0 GT/s");
  EXPECT_EQ(proposed("pcie_generation", "slot at gen3"), "pci/{slot}/current_link_speed = 8.0 GT/s");
  EXPECT_EQ(proposed("pcie_width", "same slot, x8"), "pci/{slot}/current_link_width = 8 lanes");
  EXPECT_EQ(proposed("pcie_width", "4 lanes"), "pci/{slot}/current_link_width = 4 lanes");
  EXPECT_EQ(proposed("pcie_link", "Gen 4"), "pci/{slot}/current_link_speed = 16.0 GT/s");
  EXPECT_EQ(proposed("pcie_link", "Gen 4 x8"), "path/slot_link = Gen 4 x8");
  EXPECT_EQ(proposed("pcie_links", "x8, gen3"), "path/slot_link = Gen 3 x8");
  EXPECT_EQ(proposed("external_link", "port at 40 Gb/s"), "path/cable_rate = 40 Gb/s");
  EXPECT_EQ(proposed("external_link", "long cable, 20Gbps"), "path/cable_rate = 20 Gb/s");
  EXPECT_EQ(proposed("external_link", "copies at 3 GB/s"), "");
  EXPECT_EQ(proposed("pcie_links", "x8"), "pci/{slot}/current_link_width = 8 lanes");
  EXPECT_EQ(proposed("memory_speed", "DDR5-6000"), "dmi/memory/*/configured_speed = 6000 MT/s");
  EXPECT_EQ(proposed("memory_speed", "3000 MHz"), "dmi/memory/*/configured_speed = 3000 MHz");
  EXPECT_EQ(proposed("core_count", "8 cores"), "cpu/cores = 8");
  EXPECT_EQ(proposed("memory_capacity", "32 GB"), "memory/installed = 32 GiB");
  EXPECT_EQ(proposed("memory_capacity", "2 x 16 GB"), "");
  EXPECT_EQ(proposed("resizable_bar", "off"), "pci/{device}/aperture_size = < 257 MiB");
  EXPECT_EQ(proposed("smt", "two threads a core on"), "cpu/smt_active = 1");
  EXPECT_EQ(proposed("governor", "powersave"), "cpu/governor = powersave");
  EXPECT_EQ(proposed("memory_speed", "profile 1"), "");
  EXPECT_EQ(proposed("governor", "boost on"), "");
}

// A cable that is called by its rate is held to it, and a slot's link to both its halves.
TEST(LevelNames, OfCablesAndWholeLinksAreReadFromTheWayToTheDevice) {
  core::Capture capture;
  const auto put = [&](const std::string& name, const std::string& value) { capture.put(readFact(name, value)); };
  const auto answer = [&](const char* fact, const char* value) {
    return core::readAtLevel({fact, value}, capture, "card").answer;
  };
  using Answer = core::ReadAtLevel::Answer;
  const auto putLanes = [&](const std::string& name, double lanes) {
    capture.put(readFact(name, std::to_string(static_cast<int>(lanes)), "", lanes));
  };
  put("pci/card/chain", "0000:00:01.0 0000:01:00.0");
  put("pci/card/class", "0x030000");
  for (const std::string end : {"0000:00:01.0", "0000:01:00.0"}) {
    put("pci/" + end + "/class", end.ends_with("01.0") ? "0x060400" : "0x030000");
    put("pci/" + end + "/current_link_speed", "8.0 GT/s PCIe");
    putLanes("pci/" + end + "/current_link_width", 4);
  }
  EXPECT_EQ(answer("path/slot_link", "Gen 3 x4"), Answer::Agrees);
  EXPECT_EQ(answer("path/slot_link", "Gen 3 x8"), Answer::Disagrees);
  EXPECT_EQ(answer("path/cable_rate", "40 Gb/s"), Answer::NotRead);
  put("pci/card/removable", "removable");
  for (core::Fact& fact : capture.facts)  // what the ports of a cable always show
    if (fact.name.ends_with("current_link_speed")) fact.value = "2.5 GT/s PCIe";
  for (const char* way : {"rx", "tx"}) {
    put(std::string("thunderbolt/0-1/") + way + "_speed", "20.0 Gb/s");
    put(std::string("thunderbolt/0-1/") + way + "_lanes", "2");
  }
  EXPECT_EQ(answer("path/cable_rate", "40 Gb/s"), Answer::Agrees);
  EXPECT_EQ(answer("path/cable_rate", "20 Gb/s"), Answer::Disagrees);
  EXPECT_EQ(core::readAtLevel({"path/cable_rate", "20 Gb/s"}, capture, "card").shown, "40 Gb/s");
  EXPECT_EQ(answer("path/slot_link", "Gen 3 x4"), Answer::NotRead);  // what the ends of a cable show is virtual
  capture.facts.back().value = "1";                                  // one lane back: 40 and 20
  EXPECT_EQ(answer("path/cable_rate", "40 Gb/s"), Answer::NotRead);
}

// A host whose other port links at half the rate, or a card that moved out of the box, is no comparison of hosts.
TEST(HeldConditions, OfAWholeHoldTheCableAndTheExternalLink) {
  for (const char* kind : {"host", "board", "device", "processor", "firmware_version"})
    for (const char* held : {"device/cable", "device/external"})
      EXPECT_EQ(std::ranges::count(core::findVariableKind(kind)->held, held), 1) << kind << ' ' << held;
  core::Capture inside;
  core::Capture outside;
  for (core::Capture* one : {&inside, &outside})
    one->facts.push_back(readFact("thunderbolt/0-0/usb4_port2/link", "none"));
  outside.facts.push_back(readFact("thunderbolt/0-0/usb4_port1/link", "usb4"));
  outside.facts.push_back(readFact("pci/card/removable", "removable"));
  const core::HeldCondition* external = core::findHeldCondition("device/external");
  ASSERT_NE(external, nullptr);
  EXPECT_EQ(core::heldFact(*external, outside, "card").value, "removable, usb4");
  EXPECT_FALSE(core::heldFact(*external, inside, "card").isRead());  // a port where nothing is plugged in says nothing
}

TEST(LevelNames, TellAClockFromARate) {
  EXPECT_TRUE(core::agrees({"", "6000 MT/s"}, memoryAt(6000)));
  EXPECT_TRUE(core::agrees({"", "3000 MHz"}, memoryAt(6000)));
  EXPECT_FALSE(core::agrees({"", "6000 MHz"}, memoryAt(6000)));
  EXPECT_TRUE(core::agrees({"", "2666 MT/s"}, memoryAt(2667)));  // as firmware rounds it
  EXPECT_FALSE(core::agrees({"", "4800 MT/s"}, memoryAt(6000)));
  EXPECT_TRUE(core::agrees({"", "16 GiB"}, readFact("", "17179869184", "bytes", 17179869184.0)));
  EXPECT_TRUE(core::agrees({"", "> 256 MiB"}, readFact("", "17179869184", "bytes", 17179869184.0)));
  EXPECT_TRUE(core::agrees({"", "8.0 GT/s"}, readFact("", "8.0 GT/s PCIe")));
  EXPECT_TRUE(core::agrees({"", "Performance"}, readFact("", "performance")));
  EXPECT_FALSE(core::agrees({"", "8 lanes"}, readFact("", "wide")));  // a number against a word
  EXPECT_FALSE(core::agrees({"", "wide"}, readFact("", "8", "lanes", 8)));
  EXPECT_FALSE(core::agrees({"", "> wide"}, readFact("", "wide")));
}

/// Four visits, there and back, each with what the machine said.
class Bench : public testing::Test {
 protected:
  Bench() {
    study().plan.order = core::Order::ThereAndBack;
    study().plan.passes_per_level = 4;
    study().variable().kind = "memory_speed";
    recorded_.record([](core::Pass& pass, const core::Slot& slot) {
      pass.value =
          (slot.configuration == ConfigurationId::Baseline ? 60 : 66) + 0.01 * static_cast<double>(pass.id % 3);
    });
    say({4800, 6000, 6000, 4800});
  }
  core::Study& study() { return recorded_.study; }
  void say(const std::vector<double>& mts) {
    captures_.clear();
    for (std::size_t i = 0; i < mts.size(); ++i) {
      core::Capture capture;
      capture.boot_id = recorded_.visits[i].boot_id;
      capture.put(memoryAt(mts[i]));
      captures_.push_back({static_cast<std::int64_t>(i) + 1, core::CaptureMoment::Start, capture});
    }
    recorded_.also.captures = captures_;
  }
  std::vector<std::string> stops() {
    std::vector<std::string> ids;
    for (const core::Doubt& doubt : recorded_.judged().doubts)
      if (doubt.rank == core::DoubtRank::Stop && !doubt.accepted_because) ids.push_back(doubt.id);
    return ids;
  }
  std::optional<core::Doubt> doubt(const std::string& id) {
    for (const core::Doubt& one : recorded_.judged().doubts)
      if (one.id == id) return one;
    return std::nullopt;
  }
  using Ids = std::vector<std::string>;
  support::RecordedStudy recorded_{support::studyOf({"w", "{log}"}), {}, {}, {}};
  std::vector<core::VisitCapture> captures_;
};

TEST_F(Bench, WhoseLevelsAreWhatTheyAreCalledHasNoStop) { EXPECT_EQ(stops(), Ids{}); }

TEST_F(Bench, WithExchangedLevelsStopsTheClaim) {
  say({6000, 4800, 4800, 6000});
  EXPECT_EQ(stops(), Ids{"levels_swapped"});
  EXPECT_TRUE(recorded_.judged().claim.is_stopped);
  EXPECT_TRUE(recorded_.judged().findings.cases[0].effect);  // nothing is left out: it is one mistake
}

TEST_F(Bench, WhoseLevelsAreCalledSomethingElseStopsTheClaim) {
  study().variable().levels[0].name = "5200 MT/s";
  study().variable().levels[1].name = "6400 MT/s";
  EXPECT_EQ(stops(), Ids{"names_disagree"});
  EXPECT_EQ(doubt("names_disagree")->sentence,
            "Neither level is what it is called: 5200 MT/s must read 5200 MT/s, but 4800 MT/s was read; 6400 MT/s "
            "must read 6400 MT/s, but 6000 MT/s was read");
}

TEST_F(Bench, RetiresTheVisitThatDidNotReachItsLevel) {
  say({4800, 6000, 5600, 4800});
  const Ids expected{"unlike_its_level/visit 3", "level_not_reached/visit 3"};
  for (const std::string& id : expected) EXPECT_TRUE(doubt(id)) << id;
  EXPECT_EQ(recorded_.judged().findings.retired_passes, 2);
}

TEST_F(Bench, IsNotStoppedByAVisitThatWasMeasuredAgainAtItsLevel) {
  recorded_.passes[4].visit_id = recorded_.passes[5].visit_id = 3;
  const auto repeat = [&](std::int64_t id) {  // the third visit once more, after all the others
    recorded_.also.repeated_visits.push_back({3, recorded_.passes.back().id});
    recorded_.visits.push_back({id, 3, 2, ConfigurationId::Changed, "boot " + std::to_string(id), 0});
    for (const std::size_t slot : {4U, 5U}) {
      core::Pass pass = recorded_.passes[slot];
      pass.id = recorded_.passes.back().id + 1;
      pass.visit_id = id;
      recorded_.passes.push_back(pass);
    }
  };
  study().variable().levels[1].reads = core::ExpectedReading{"dmi/memory/*/configured_speed", "6000"};
  const std::string id = "level_not_reached/visit 3";
  say({4800, 6000, 5600, 4800});
  ASSERT_EQ(doubt(id)->rank, core::DoubtRank::Stop);
  repeat(5);
  say({4800, 6000, 5600, 4800, 5600});
  EXPECT_EQ(doubt(id)->rank, core::DoubtRank::Stop) << "not at its level this time either";
  repeat(6);
  say({4800, 6000, 5600, 4800, 5600, 6000});
  EXPECT_EQ(stops(), Ids{});
  EXPECT_EQ(doubt(id)->remedy, "Its passes are left out; it was measured again");
  EXPECT_EQ(recorded_.judged().findings.cases[0].counted_changed, 4);
}

TEST_F(Bench, IsHeldToWhatTheDesignSaysBeforeWhatANameSays) {
  study().variable().levels[1].name = "profile 1";
  EXPECT_EQ(stops(), Ids{});
  study().variable().levels[1].reads = core::ExpectedReading{"dmi/memory/*/configured_speed", "6400"};
  EXPECT_TRUE(doubt("level_not_reached/visit 2"));
}

TEST_F(Bench, CountsVisitsOfOneBootOnceAndSaysSo) {
  EXPECT_EQ(recorded_.findings().cases[0].effect->design.estimator, core::Estimator::Visits);
  recorded_.visits[2].boot_id = recorded_.visits[1].boot_id;
  say({4800, 6000, 6000, 4800});
  const auto found = recorded_.findings().cases[0];
  EXPECT_EQ(found.effect->design.visits[1], 1);
  EXPECT_EQ(found.effect->design.estimator, core::Estimator::Passes);
  EXPECT_EQ(found.counted_changed, 4);  // its passes count all the same
  EXPECT_EQ(doubt("flip_not_performed/visit 3")->sentence,
            "The flip to visit 3 was not performed: the machine has not restarted since visit 2. The two count as one "
            "visit");
}

TEST_F(Bench, LeavesOutALevelThatNoRestartCanHaveSet) {
  recorded_.visits[1].boot_id = recorded_.visits[0].boot_id;
  captures_.clear();
  recorded_.also.captures = captures_;  // nothing was read: the boots alone tell
  EXPECT_EQ(stops(), Ids{"flip_not_performed/visit 2"});
  EXPECT_EQ(recorded_.judged().findings.retired_passes, 2);
  recorded_.also.repeated_visits.push_back({2, recorded_.passes.back().id});
  recorded_.visits.push_back({5, 2, 1, ConfigurationId::Changed, "boot of the repetition", 0});
  core::Pass again = recorded_.passes[2];
  again.id = recorded_.passes.back().id + 1;
  again.visit_id = 5;
  recorded_.passes.push_back(again);
  EXPECT_EQ(stops(), Ids{}) << "set and measured once more";
}

TEST_F(Bench, IsBelievedAboutARestartWhereTheKindNeedsNone) {
  study().variable().kind = "governor";
  recorded_.visits[2].boot_id = recorded_.visits[1].boot_id;
  EXPECT_TRUE(core::missedFlips(study(), recorded_.visits).empty());
  study().variable().kind = "pcie_generation";  // by hand it is set in the firmware's menu
  EXPECT_EQ(core::missedFlips(study(), recorded_.visits).size(), 1U);
  study().variable().levels[0].set_command = study().variable().levels[1].set_command = {"set-link"};
  EXPECT_TRUE(core::missedFlips(study(), recorded_.visits).empty());
}

TEST_F(Bench, RestsOnAPersonsWordWhereNothingWasCaptured) {
  captures_.clear();
  recorded_.also.captures = captures_;
  EXPECT_EQ(doubt("not_captured")->rank, core::DoubtRank::Caution);
  study().variable().kind.clear();
  EXPECT_FALSE(doubt("not_captured"));
  EXPECT_TRUE(doubt("kind_not_declared"));
}

TEST_F(Bench, NamesMemoryThatRunsAboveOrBelowWhatItIsMadeFor) {
  const auto rate = [&](double rated, double most_mv) {
    for (core::VisitCapture& one : captures_) {
      one.capture.put(readFact("dmi/memory/DIMM_A2/rated_speed", "", "MT/s", rated));
      one.capture.put(readFact("dmi/memory/DIMM_A2/configured_voltage", "", "mV", 1350));
      one.capture.put(readFact("dmi/memory/DIMM_A2/most_voltage", "", "mV", most_mv));
    }
    recorded_.also.captures = captures_;
    Ids said;
    for (const core::MemoryRemark& one : recorded_.judged().proof.memory_remarks) said.push_back(one.sentence(2));
    return said;
  };
  EXPECT_EQ(rate(5600, 1350), Ids{"At 6000 MT/s: memory runs at 6000 MT/s, above its rating of 5600 MT/s"});
  EXPECT_EQ(rate(6000, 1100), Ids{"memory runs at 1350 mV, above the 1100 mV that its module names"});
  study().variable().kind = "governor";  // whatever the variable
  EXPECT_EQ(rate(6400, 1350).size(), 2U);
}

TEST_F(Bench, CountsErrorsThatCameUpDuringAVisit) {
  core::VisitCapture end = captures_[1];
  end.moment = core::CaptureMoment::End;
  for (auto [capture, corrected, link] : {std::tuple{&captures_[1].capture, 2.0, "RxErr 1, TOTAL_ERR_COR 1"},
                                          {&end.capture, 5.0, "RxErr 8, TOTAL_ERR_COR 8"}}) {
    core::Fact of_memory = readFact("memory/errors/mc0/corrected", "", "", corrected);
    core::Fact of_link = readFact("pci/0000:00:01.0/aer_dev_correctable", link);
    of_memory.kind = of_link.kind = core::FactKind::Evidence;
    capture->put(of_memory);
    capture->put(of_link);
  }
  captures_.push_back(end);
  recorded_.also.captures = captures_;
  EXPECT_EQ(doubt("errors/visit 2")->sentence,
            "In visit 2 the machine counted 3 errors of memory, corrected or not, 7 link errors at 0000:00:01.0");
  core::Fact none = readFact("memory/errors/mc0/corrected", "", "", 2);
  none.kind = core::FactKind::Evidence;
  captures_.back().capture.put(none);
  recorded_.also.captures = captures_;
  EXPECT_EQ(doubt("errors/visit 2")->sentence, "In visit 2 the machine counted 7 link errors at 0000:00:01.0");
}

/// Two boards with a card each, in slots of different addresses.
core::Capture boardWith(const std::string& board, const std::string& port, double mts, const std::string& width) {
  core::Capture capture;
  capture.boot_id = board;
  capture.put(readFact("firmware/board", board));
  capture.put(memoryAt(mts));
  capture.put(readFact("cpu/governor", "performance"));
  capture.put(readFact("pci/0000:03:00.0/class", "0x030000"));
  capture.put(readFact("pci/0000:03:00.0/vendor", "0xf1c9"));
  capture.put(readFact("pci/0000:03:00.0/chain", port + " 0000:03:00.0"));
  for (const std::string& end : {port, std::string("0000:03:00.0")}) {
    capture.put(readFact("pci/" + end + "/current_link_speed", "16.0 GT/s"));
    capture.put(readFact("pci/" + end + "/current_link_width", width, "lanes", std::stod(width)));
  }
  return capture;
}

core::Comparison ofBoards(const core::Capture& a, const core::Capture& b, const core::Study& study) {
  return core::compareCaptures(a, b, core::comparisonOrderOf(study, "0000:03:00.0", "A", "B"));
}

TEST(HeldConditions, OfAWholeAreStopsUntilReleased) {
  core::Study study;
  study.variable().kind = "board";
  const core::Capture before = boardWith("Corvane D2", "0000:00:01.0", 6000, "16");
  EXPECT_TRUE(ofBoards(before, boardWith("Corvane D4", "0000:00:06.0", 6000, "16"), study).isValidPair());
  const core::Capture after = boardWith("Corvane D4", "0000:00:06.0", 4800, "8");
  const core::Comparison apart = ofBoards(before, after, study);
  EXPECT_EQ(core::differenceSentences(apart.held),
            (std::vector<std::string>{"memory speed changed from 6000 MT/s to 4800 MT/s",
                                      "link width of the device changed from 16 lanes to 8 lanes"}));
  EXPECT_FALSE(apart.only_variable_changed);
  study.released = {{"memory/configured_speed", "the board offers no more"}};
  EXPECT_EQ(ofBoards(before, after, study).held.size(), 1U);
  EXPECT_EQ(ofBoards(before, after, study).comes_along.size(),
            ofBoards(before, after, core::Study{study}).comes_along.size());
}

TEST(HeldConditions, CanBeATestersOwnForEveryKind) {
  core::Study study;
  study.variable().kind = "memory_speed";
  core::Capture before = boardWith("Corvane D2", "0000:00:01.0", 4800, "16");
  core::Capture after = boardWith("Corvane D2", "0000:00:01.0", 6000, "16");
  after.boot_id = "another";
  before.put(readFact("dmi/memory/DIMM_A2/configured_voltage", "1100", "mV", 1100));
  after.put(readFact("dmi/memory/DIMM_A2/configured_voltage", "1350", "mV", 1350));
  EXPECT_TRUE(ofBoards(before, after, study).isValidPair());
  study.held = {"dmi/memory/*/configured_voltage"};
  EXPECT_EQ(ofBoards(before, after, study).held.size(), 1U);
}

TEST(HeldConditions, AreReleasedByNameAndWithAReasonOnly) {
  core::Study study = support::studyOf({"w", "{log}"});
  study.released = {{"cpu/mood", "why"}, {"cpu/governor", " "}};
  const auto problems = core::problemsOf(study);
  ASSERT_EQ(problems.size(), 2U);
  EXPECT_EQ(problems[0].what, "'cpu/governor' is released without a reason");
  EXPECT_EQ(problems[1].what, "'cpu/mood' is not kept equal, so it cannot be released");
}

}  // namespace
