// What is said of a study, in every shape: of each unit its own sentence, of each cause once, of groups never, and
// nothing of what nobody may see yet.
#include <gtest/gtest.h>

#include <cmath>

#include "core/findings/findings.h"
#include "core/judgement/judgement.h"
#include "core/machine/memory_layout.h"
#include "core/planning/candidate_plans.h"
#include "core/record/looks.h"
#include "core/record/performed_flips.h"
#include "support/recorded_study.h"

namespace {

using core::ConfigurationId;

const core::Doubt* doubt(const core::Judgement& judged, const std::string& id) {
  for (const core::Doubt& one : judged.doubts)
    if (one.id == id) return &one;
  return nullptr;
}

core::Metric decibels() { return {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 1}; }

/// Frames and decibels in one study: no sum holds both.
support::RecordedStudy framesAndNoise(const core::Study& study) {
  support::RecordedStudy recorded{study};
  recorded.study.cases.push_back(recorded.study.cases[0]);
  recorded.study.cases[1].preset = "2K dome";
  recorded.study.cases[1].source = core::ResultSource::JsonField;
  recorded.study.cases[1].metric = decibels();
  recorded.record([](core::Pass& pass, const core::Slot& slot) {
    const auto place = static_cast<double>(core::placeOf(slot.configuration));
    const double wobble = 0.1 * std::sin(1.7 * slot.visit + slot.number);
    pass.value = slot.case_index == 0 ? 60 + 6 * place + wobble : 40 - 3 * place + wobble;
  });
  return recorded;
}

TEST(Sentences, OfFramesAndDecibelsHaveASentenceEach) {
  for (const core::Study& study : {support::roundsOf(4), support::ladderOf(4), support::chainOf(4)}) {
    const std::string said = framesAndNoise(study).judged().claim.sentence();
    EXPECT_NE(said.find("average FPS over Ring pass, 4K dome"), std::string::npos) << said;
    EXPECT_NE(said.find("; it changes noise over Ring pass, 2K dome by "), std::string::npos) << said;
    EXPECT_NE(said.find(" dB ("), std::string::npos) << said;
    EXPECT_EQ(said.find(" yet"), std::string::npos) << "it is finished: " << said;
  }
}

TEST(Sentences, OfACompletePlanNeverSayYet) {
  for (const core::Study& study :
       {support::roundsOf(3), support::ladderOf(3), support::crossedOf(3), support::chainOf(3)}) {
    support::RecordedStudy recorded{study};
    recorded.record([](core::Pass& pass, const core::Slot& slot) {
      if (slot.configuration == core::configurationAt(0)) pass.value = 60 + 0.1 * slot.round;
    });
    const core::Judgement judged = recorded.judged();
    EXPECT_TRUE(judged.findings.done.is_first_done);
    EXPECT_EQ(judged.claim.sentence().find(" yet"), std::string::npos) << judged.claim.sentence();
    EXPECT_NE(judged.claim.sentence().find(" only, 60."), std::string::npos) << judged.claim.sentence();
    EXPECT_NE(judged.claim.sentence().find("target rate of 60.0 FPS"), std::string::npos) << judged.claim.sentence();
  }
}

TEST(Controls, OfDegreesThatMoveRaiseTheirDoubt) {
  support::RecordedStudy recorded = framesAndNoise(support::roundsOf(4));
  recorded.study.cases[1].is_control = true;
  const core::Judgement judged = recorded.judged();
  const core::Doubt* moved = doubt(judged, "control_moved/Ring pass, 2K dome");
  ASSERT_NE(moved, nullptr);
  EXPECT_NE(moved->sentence.find("moved by −"), std::string::npos) << moved->sentence;
  EXPECT_NE(moved->sentence.find(" dB"), std::string::npos) << moved->sentence;
}

// Decibels are no percent of 0: how far a case moved is counted in its thresholds.
TEST(TheCalmestCase, IsFoundAmongDifferencesToo) {
  support::RecordedStudy recorded = framesAndNoise(support::roundsOf(4));
  recorded.study.cases.push_back(recorded.study.cases[0]);
  recorded.study.cases[2].preset = "8K dome";
  recorded.record([](core::Pass& pass, const core::Slot& slot) {
    const bool is_changed = slot.configuration == ConfigurationId::Changed;
    const double wobble = 0.05 * std::sin(1.7 * slot.visit + slot.number);
    pass.value = slot.case_index == 0   ? 60 + (is_changed ? 12 : 0) + wobble
                 : slot.case_index == 1 ? 40 + (is_changed ? 9 : 0) + wobble  // nine thresholds
                                        : 60 + (is_changed ? 0.6 : 0) + wobble;
  });
  EXPECT_EQ(core::leastSurprising(recorded.findings(), 0), 2U);
}

TEST(ZerosOfACase, AreNamedAndTheOthersStand) {
  support::RecordedStudy recorded{support::roundsOf(4)};
  for (const char* preset : {"2K dome", "8K dome"}) {
    recorded.study.cases.push_back(recorded.study.cases[0]);
    recorded.study.cases.back().preset = preset;
  }
  recorded.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value =
        slot.case_index == 2 ? 0 : 60 + (slot.configuration == ConfigurationId::Changed ? 5 : 0) + 0.1 * slot.round;
  });
  const core::Judgement judged = recorded.judged();
  ASSERT_TRUE(judged.findings.suite);
  EXPECT_EQ(judged.findings.suite->cases, (std::vector<std::size_t>{0, 1}));
  ASSERT_NE(doubt(judged, "not_in_suite/zero"), nullptr);
  EXPECT_NE(doubt(judged, "not_in_suite/zero")->sentence.find("Ring pass, 8K dome"), std::string::npos);
}

// Cards are never compared themselves, not in the cells of a picture either.
TEST(Groups, AreContrastedInNoTable) {
  support::RecordedStudy crossed{support::crossedOf()};
  crossed.study.variables[1].is_group = true;
  crossed.study.variables[1].name = "card";
  crossed.recordRates({50, 80, 60, 88}, 0.0005);  // Gen 3 off, Gen 3 on, Gen 4 off, Gen 4 on
  const core::Judgement judged = crossed.judged();
  const core::ValuesOf& values = *judged.shape.valuesOf(0);
  EXPECT_EQ(values.at[1].improvement->value, 0) << "the other card at the baseline is a reference of its own";
  EXPECT_NEAR(values.at[2].improvement->value, 20, 0.3);
  EXPECT_NEAR(values.at[3].improvement->value, 10, 0.3);
}

// Cards of two makers have two drivers: nobody can hold that, and it is said.
TEST(Groups, UnderDifferentDriversAreSaidToBe) {
  support::RecordedStudy crossed{support::crossedOf()};
  crossed.study.variables[1].is_group = true;
  crossed.study.variables[1].name = "card";
  crossed.study.variables[1].levels[0].name = "Luma-9";
  crossed.study.variables[1].levels[1].name = "Tern-4";
  crossed.recordRates({50, 80, 60, 88}, 0.0005);
  const auto told = [&](const char* version_of_the_second) {
    std::vector<core::VisitCapture> captures;
    for (const core::Visit& visit : crossed.visits) {
      core::VisitCapture capture{visit.id, core::CaptureMoment::Start, {}};
      const bool is_second = crossed.study.levelsAt(visit.configuration)[1] == 1;
      for (const auto& [name, value] :
           {std::pair{"pci/0000:03:00.0/class", "0x030000"},
            {"pci/0000:03:00.0/driver", "amdgpu"},
            {"pci/0000:03:00.0/driver_version", is_second ? version_of_the_second : "6.1"}}) {
        core::Fact fact;
        fact.name = name;
        fact.value = value;
        capture.capture.put(fact);
      }
      captures.push_back(capture);
    }
    crossed.also.captures = captures;
    for (const core::Doubt& doubt : crossed.judged().doubts)
      if (doubt.id.starts_with("groups_differ")) return doubt.sentence;
    return std::string();
  };
  EXPECT_EQ(told("6.1"), "");
  EXPECT_EQ(told("6.4"), "The driver is not one: at Luma-9 6.1, amdgpu; at Tern-4 6.4, amdgpu");
}

TEST(Memory, OfFourModulesOnTwoChannelsHasTheRateOfTwo) {
  EXPECT_EQ(core::memoryChannel("P0 CHANNEL A", "DIMM 0"), core::memoryChannel("P0 CHANNEL A", "DIMM 1"));
  EXPECT_NE(core::memoryChannel("P0 CHANNEL A", ""), core::memoryChannel("P1 CHANNEL A", ""));
  EXPECT_EQ(core::memoryChannel("", "DIMM_A1"), core::memoryChannel("", "DIMM_A2"));
  EXPECT_NE(core::memoryChannel("", "ChannelA-DIMM0"), core::memoryChannel("", "ChannelB-DIMM0"));
  EXPECT_EQ(core::memoryChannel("BANK 0", "DIMM 0"), "") << "that counts slots";
  core::Capture capture;
  for (const char* place : {"DIMM_A1", "DIMM_A2", "DIMM_B1", "DIMM_B2"}) {
    const std::string module = std::string("dmi/memory/") + place + "/";
    for (const auto& [name, number] :
         {std::pair{"size", 17179869184.0}, {"data_width", 64.0}, {"configured_speed", 6000.0}}) {
      core::Fact fact;
      fact.name = module + name;
      fact.number = number;
      capture.put(fact);
    }
  }
  const core::MemoryLayout layout = core::memoryLayout(capture);
  EXPECT_EQ(layout.modules.size(), 4U);
  EXPECT_EQ(layout.channels, 2);
  EXPECT_EQ(layout.bus_bits, 128);
  EXPECT_NEAR(*layout.peakGBps(), 96, 1e-9);
}

// A A B B A in one boot: a level that was there already counts as its first visit, whichever that is.
TEST(PerformedFlips, CompareWithTheFirstVisitAtTheSameLevel) {
  core::Study study = support::roundsOf(3);
  study.variable().kind = "pcie_generation";  // set by hand, with a restart
  std::vector<core::Visit> visits;
  for (const ConfigurationId configuration :
       {ConfigurationId::Baseline, ConfigurationId::Changed, ConfigurationId::Changed, ConfigurationId::Baseline})
    visits.push_back({static_cast<std::int64_t>(visits.size()) + 1, static_cast<int>(visits.size()) + 1, 1,
                      configuration, "one", 0});
  const auto missed = core::missedFlips(study, visits);
  ASSERT_EQ(missed.size(), 2U);
  EXPECT_EQ(missed[0].visit_id, 3);
  EXPECT_EQ(missed[0].same_as_id, 2);
  EXPECT_EQ(missed[1].visit_id, 4);
  EXPECT_EQ(missed[1].same_as_id, 1);
}

TEST(Looks, AreRememberedWhenTheSheetGoesOn) {
  support::RecordedStudy recorded{support::roundsOf(8)};
  recorded.study.plan.is_sealed = true;
  recorded.study.plan.looks = {4, 8};
  recorded.recordRates({60, 63});
  const auto all = recorded.passes;
  const auto upTo = [&](std::size_t passes) {
    recorded.passes.assign(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(passes));
    return recorded.recorded();
  };
  EXPECT_FALSE(core::wasLookTaken(recorded.study, upTo(7)));
  EXPECT_TRUE(core::wasLookTaken(recorded.study, upTo(8)));
  EXPECT_FALSE(core::isSealed(recorded.study, upTo(8))) << "it stands at the look";
  EXPECT_TRUE(core::isSealed(recorded.study, upTo(9))) << "and goes on";
  EXPECT_TRUE(core::wasLookTaken(recorded.study, upTo(9))) << "but somebody has seen them";
}

TEST(Plans, OfOnePassALevelPromiseNothing) {
  core::Study study = support::studyOf({"ring", "{log}"}, 1);
  const core::PlanningOrder planning = core::planningOf(study);
  const core::CandidatePlan one = core::candidateOf(core::Order::Blocked, 1, 1, planning);
  EXPECT_FALSE(one.is_sufficient);
  EXPECT_NE(core::reasonFor(one, planning).find("too few passes for an interval"), std::string::npos);
  core::PlanningOrder silent = planning;
  silent.noise.pass_sd = silent.noise.flip_sd = 0;  // a pilot whose passes were all alike
  EXPECT_NE(core::reasonFor(core::candidateOf(core::Order::BalancedShuffle, 5, 2, silent), silent).find("is not known"),
            std::string::npos);
}

}  // namespace
