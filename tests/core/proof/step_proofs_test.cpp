// The proof of more than two configurations: each step by itself, and what of it retires a visit of the whole study.
#include "core/proof/step_proofs.h"

#include <gtest/gtest.h>

#include <set>

#include "core/findings/derived_studies.h"
#include "core/findings/level_resources.h"
#include "core/judgement/judgement.h"
#include "core/planning/extension.h"
#include "support/recorded_study.h"

namespace {

using core::CaptureMoment;
using core::configurationAt;

core::Fact numberFact(const std::string& name, double number, const std::string& unit = "") {
  core::Fact made;
  made.name = name;
  made.value = std::to_string(static_cast<int>(number));
  made.number = number;
  made.unit = unit;
  return made;
}

/// A ladder of memory rates, each visit captured as the level is called; Gen's names stand for MT/s here.
class StepProofs : public testing::Test {
 protected:
  StepProofs() {
    recorded_.study = support::ladderOf(3, 1);
    core::Variable& variable = recorded_.study.variable();
    variable.name = "memory speed";
    variable.kind = "memory_speed";
    variable.resource_unit.clear();
    const char* names[] = {"4800 MT/s", "5600 MT/s", "6000 MT/s", "6400 MT/s"};
    for (std::size_t i = 0; i < 4; ++i) {
      variable.levels[i].name = names[i];
      variable.levels[i].resource.reset();
    }
    recorded_.record([](core::Pass& pass, const core::Slot& slot) {
      pass.value = 60 + 2 * static_cast<double>(core::placeOf(slot.configuration)) + 0.01 * (slot.visit % 5);
    });
    for (const core::Visit& visit : recorded_.visits) say(visit.id, kRates[core::placeOf(visit.configuration)]);
  }
  void say(std::int64_t visit, double mts, double lanes = 16) {
    std::erase_if(captures_, [&](const core::VisitCapture& one) { return one.visit_id == visit; });
    core::Capture capture;
    capture.boot_id = "boot " + std::to_string(visit);
    capture.put(numberFact("dmi/memory/DIMM_A2/configured_speed", mts, "MT/s"));
    capture.put(numberFact("pci/0000:00:01.0/current_link_width", lanes));
    captures_.push_back({visit, CaptureMoment::Start, capture});
  }
  core::Judgement judged() {
    recorded_.also.captures = captures_;
    return recorded_.judged();
  }
  std::int64_t firstVisitAt(std::size_t place) const {
    for (const core::Visit& visit : recorded_.visits)
      if (visit.configuration == configurationAt(place)) return visit.id;
    return 0;
  }
  static std::set<std::string> idsOf(const core::Judgement& judgement) {
    std::set<std::string> ids;
    for (const core::Doubt& doubt : judgement.doubts) ids.insert(doubt.id);
    return ids;
  }

  static constexpr double kRates[] = {4800, 5600, 6000, 6400};
  support::RecordedStudy recorded_{support::ladderOf()};
  std::vector<core::VisitCapture> captures_;
};

TEST_F(StepProofs, AreMadeForEachStepOfALadderAndForItsEnds) {
  const core::Judgement judgement = judged();
  ASSERT_EQ(judgement.steps.size(), 4U);  // three neighbours, and the top against the baseline
  for (const core::StepProof& step : judgement.steps)
    EXPECT_EQ(step.proof.verdict, core::ProofVerdict::MovedAsDeclared) << step.proof.reason;
  EXPECT_FALSE(judgement.claim.is_stopped);
  EXPECT_EQ(judgement.findings.retired_passes, 0);
}

TEST_F(StepProofs, NameTheStepThatDidNotMove) {
  for (const core::Visit& visit : recorded_.visits)
    if (visit.configuration == configurationAt(2)) say(visit.id, 5600);
  const core::Judgement judgement = judged();
  const auto ids = idsOf(judgement);
  EXPECT_TRUE(ids.contains("did_not_move/5600 MT/s to 6000 MT/s")) << testing::PrintToString(ids);
  EXPECT_FALSE(ids.contains("did_not_move/4800 MT/s to 5600 MT/s"));
  EXPECT_TRUE(judgement.claim.is_stopped);
}

TEST_F(StepProofs, RetireAVisitUnlikeItsLevelOnceWhicheverStepFindsIt) {
  const std::int64_t visit = firstVisitAt(1);
  say(visit, 5600, 8);
  const core::Judgement judgement = judged();
  EXPECT_EQ(judgement.findings.retired_passes, 1);
  const std::string id = "unlike_its_level/visit " + std::to_string(visit);
  EXPECT_EQ(std::count_if(judgement.doubts.begin(), judgement.doubts.end(),
                          [&](const core::Doubt& doubt) { return doubt.id == id; }),
            1);
  // Only the contrasts that need that level lose a round; the ladder's other steps keep all of theirs.
  for (std::size_t i = 0; i < judgement.shape.asked.size(); ++i) {
    const core::AskedContrast& asked = judgement.shape.asked[i];
    const bool needs_it = asked.from == "5600 MT/s" || asked.to == "5600 MT/s";
    const bool has_all_rounds = judgement.shape.find(i, 0)->estimator == core::Estimator::Rounds;
    EXPECT_NE(has_all_rounds, needs_it) << core::contrastName(asked);
  }
  recorded_.also.acceptances = {{id, "the cable was reseated"}};
  EXPECT_EQ(judged().findings.retired_passes, 0);
}

// An update in mid-study moves every visit after it, at every level, in every step: one cause, one doubt, accepted
// once.
TEST_F(StepProofs, TellAnUpdateInMidStudyOnceForAllItsVisits) {
  std::vector<std::int64_t> updated;
  for (const core::Visit& visit : recorded_.visits)
    if (visit.round == 3) updated.push_back(visit.id);
  for (core::VisitCapture& one : captures_) {
    core::Fact kernel = numberFact("kernel/osrelease", 0);
    kernel.number.reset();
    kernel.value = std::find(updated.begin(), updated.end(), one.visit_id) == updated.end() ? "6.1" : "6.2";
    one.capture.put(kernel);
  }
  recorded_.also.captures = captures_;
  const auto doubts = [&] {
    std::vector<core::Doubt> found;
    for (const core::Doubt& one : judged().doubts)
      if (one.id.starts_with("unlike_its_level")) found.push_back(one);
    return found;
  };
  ASSERT_EQ(updated.size(), 4U);
  ASSERT_EQ(doubts().size(), 1U);
  EXPECT_EQ(doubts()[0].id, core::visitDoubtId(core::kUnlikeItsLevelId, updated));
  EXPECT_NE(doubts()[0].sentence.find("differ from other visits of their levels: "), std::string::npos);
  EXPECT_EQ(judged().findings.retired_passes, 4);
  recorded_.also.acceptances = {{doubts()[0].id, "the update is of the browser"}};
  EXPECT_EQ(judged().findings.retired_passes, 0);
  EXPECT_TRUE(doubts()[0].accepted_because);
  // As it was accepted visit by visit; one of them is not enough.
  recorded_.also.acceptances = {{core::visitDoubtId(core::kUnlikeItsLevelId, updated[0]), "known"}};
  EXPECT_EQ(judged().findings.retired_passes, 3);
  EXPECT_FALSE(doubts()[0].accepted_because);
  for (const std::size_t i : {1U, 2U, 3U})
    recorded_.also.acceptances.emplace_back(core::visitDoubtId(core::kUnlikeItsLevelId, updated[i]), "known");
  EXPECT_TRUE(doubts()[0].accepted_because);
}

// One level is known in GB/s, the others by the MT/s that were read: no number is foretold across the two.
TEST_F(StepProofs, KeepAResourceOfAnotherUnitOutOfTheModel) {
  recorded_.study.variable().resource_unit = "GB/s";
  recorded_.study.variable().levels[0].resource = 38.4;
  recorded_.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value = 60 + 8 * static_cast<double>(core::placeOf(slot.configuration)) + 0.01 * (slot.visit % 5);
  });
  const core::Judgement judgement = judged();
  ASSERT_EQ(judgement.shape.resources.size(), 4U);
  EXPECT_EQ(judgement.shape.resources[0]->unit, "GB/s");
  EXPECT_EQ(judgement.shape.resources[1]->unit, "MT/s");
  EXPECT_TRUE(idsOf(judgement).contains("no_resource/other"));
  const core::LadderFinding& ladder = *judgement.shape.ladderOf(0);
  EXPECT_FALSE(ladder.steps[0].elasticity) << "from GB/s to MT/s";
  EXPECT_TRUE(ladder.steps[1].elasticity);
  for (const core::Foretold& one : ladder.foretold) EXPECT_NE(one.level, configurationAt(0));
}

TEST_F(StepProofs, TellMemoryAboveItsRatingOnce) {
  for (core::VisitCapture& one : captures_) one.capture.put(numberFact("dmi/memory/DIMM_A2/rated_speed", 4800));
  recorded_.also.captures = captures_;
  std::vector<std::string> said;
  for (const core::Doubt& one : judged().doubts)
    if (one.id.starts_with("memory_rating")) said.push_back(one.sentence);
  EXPECT_EQ(said, std::vector<std::string>{"At 5600 MT/s: memory runs at 5600 MT/s, above its rating of 4800 MT/s; At "
                                           "6000 MT/s: memory runs at 6000 MT/s, above its rating of 4800 MT/s; At "
                                           "6400 MT/s: memory runs at 6400 MT/s, above its rating of 4800 MT/s"});
}

// A step of two variables is proved for both: each moved, and nothing else did.
TEST_F(StepProofs, ProveBothVariablesOfAStepThatMovesTwo) {
  core::Study& study = recorded_.study;
  study.shape = core::Shape::Chain;
  core::Variable width;
  width.name = "link width";
  width.kind = "other";
  width.fields = {"pci/0000:00:01.0/current_link_width"};
  width.levels[0].name = "wide";
  width.levels[1].name = "narrow";
  study.variables.push_back(width);
  study.configurations = {{"as it was", {0, 0}}, {"both", {1, 1}}, {"faster", {2, 1}}};
  study.plan.drawn = core::drawRounds(3, 3, 1);
  recorded_.record([](core::Pass& pass, const core::Slot&) { pass.value = 60; });
  const auto say_all = [&](double lanes_of_both, double swappiness) {
    for (const core::Visit& visit : recorded_.visits) {
      const std::size_t at = core::placeOf(visit.configuration);
      say(visit.id, kRates[at], at == 0 ? 16 : lanes_of_both);
      captures_.back().capture.put(numberFact("kernel/swappiness", at == 0 ? 60 : swappiness));
    }
  };
  say_all(4, 60);
  EXPECT_EQ(judged().steps[0].proof.verdict, core::ProofVerdict::MovedAsDeclared) << judged().steps[0].proof.reason;
  EXPECT_TRUE(judged().steps[0].proof.levels->isValidPair());
  EXPECT_TRUE(judged().steps[0].proof.reason.empty());
  EXPECT_EQ(judged().steps[0].proof.levels->meant.size(), 2U);
  say_all(16, 60);  // the other one did not move
  EXPECT_EQ(judged().steps[0].proof.verdict, core::ProofVerdict::DidNotMove);
  say_all(4, 10);  // and something else did
  ASSERT_EQ(judged().steps[0].proof.levels->must_not.size(), 1U);
  EXPECT_EQ(judged().steps[0].proof.levels->must_not[0].field, "kernel/swappiness");
}

TEST_F(StepProofs, AFactOfTheLevelIsItsResourceWhereTheDesignSaysNone) {
  const core::Judgement judgement = judged();
  ASSERT_EQ(judgement.shape.resources.size(), 4U);
  for (std::size_t i = 0; i < 4; ++i) {
    ASSERT_TRUE(judgement.shape.resources[i]);
    EXPECT_EQ(judgement.shape.resources[i]->value, kRates[i]);
    EXPECT_EQ(judgement.shape.resources[i]->unit, "MT/s");
    EXPECT_EQ(judgement.shape.resources[i]->source, core::ResourceSource::Read);
  }
  EXPECT_FALSE(judgement.shape.ladderOf(0)->model);  // MT/s is not something that data go over
  // What was measured comes before what was read, and what the design says before both.
  std::vector<core::VisitMeasurement> measured;
  for (const core::Visit& visit : recorded_.visits)
    measured.push_back(
        {visit.id,
         CaptureMoment::Start,
         {{"read_GBps",
           {{kRates[core::placeOf(visit.configuration)] / 100, kRates[core::placeOf(visit.configuration)] / 100}}}},
         {}});
  recorded_.also.measurements = measured;
  EXPECT_EQ(judged().shape.resources[1]->source, core::ResourceSource::Measured);
  EXPECT_EQ(judged().shape.resources[1]->value, 56);
  recorded_.study.variable().levels[1].resource = 44.8;
  EXPECT_EQ(judged().shape.resources[1]->source, core::ResourceSource::Design);
}

TEST(DerivedStudies, OfAShapeAreTheTwoConfigurationsThatMatter) {
  for (core::Study study : {support::ladderOf(), support::crossedOf(), support::chainOf()}) {
    support::RecordedStudy recorded{study};
    recorded.record([](core::Pass& pass, const core::Slot& slot) {
      pass.value = 60 + static_cast<double>(core::placeOf(slot.configuration)) + 0.01 * (slot.visit % 3);
    });
    const core::Judgement judged = recorded.judged();
    core::Study again = core::confirmationOf(study, judged.findings, 0, judged.pair);
    again = core::startedAnew(again, 7);
    EXPECT_TRUE(core::problemsOf(again).empty()) << core::problemsOf(again).front().sentence();
    EXPECT_EQ(again.configurationCount(), 2U);
    EXPECT_EQ(again.plan.rounds, 5);
    EXPECT_TRUE(again.plan.is_sealed && again.plan.looks.empty() && again.plan.extension_rounds == 0);
    EXPECT_EQ(again.nameOf(configurationAt(0)), study.nameOf(judged.pair.from));
    EXPECT_EQ(again.nameOf(configurationAt(1)), study.nameOf(judged.pair.to));
    // What brings each about is brought along whole.
    EXPECT_EQ(core::setupOf(again, configurationAt(1)).environment, core::setupOf(study, judged.pair.to).environment);
    const core::Study null_study = core::startedAnew(core::nullStudyOf(study, 0), 3);
    EXPECT_TRUE(core::problemsOf(null_study).empty()) << core::problemsOf(null_study).front().sentence();
    EXPECT_EQ(null_study.shape, core::Shape::Pair);
    EXPECT_EQ(null_study.plan.rounds, 4) << "eight visits are usual";
    EXPECT_EQ(core::nullStudyOf(study, 6).plan.rounds, 3);
    EXPECT_EQ(core::nullStudyOf(study, 7).plan.rounds, 4);
    EXPECT_EQ(core::nullStudyOf(study, 5).plan.rounds, 4) << "fewer than six would not be used";
  }
}

TEST(Extensions, OfALadderAreWholeRounds) {
  const core::Study study = support::ladderOf();
  const core::Study more = core::withOneMoreRound(study);
  ASSERT_EQ(more.plan.drawn.size(), 6U);
  EXPECT_EQ(more.plan.drawn.back().size(), 4U);
  EXPECT_TRUE(core::problemsOf(more).empty());
  const core::Study extended = core::extended(study, {3, 0, 0});
  EXPECT_EQ(core::scheduleOf(extended).size(), 8U * 4 * 2);
  EXPECT_TRUE(core::problemsOf(extended).empty());
}

}  // namespace
