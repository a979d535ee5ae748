#include "core/findings/findings.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "core/findings/case_memory.h"
#include "core/findings/headline.h"
#include "core/findings/secondary.h"
#include "core/judgement/claim.h"
#include "core/judgement/doubts.h"
#include "core/judgement/judgement.h"
#include "core/study/schedule.h"
#include "support/recorded_study.h"

namespace {

/// A study of `cases` alike and its passes; the value of a pass is asked for.
class FindingsOf : public testing::Test {
 protected:
  FindingsOf() { study_ = support::studyOf({"workload", "{log}"}, 4); }

  void addCase(const std::string& preset) {
    core::Case another = study_.cases[0];
    another.preset = preset;
    study_.cases.push_back(another);
  }
  void record(auto value_of) {
    recorded_.record([&](core::Pass& pass, const core::Slot& slot) { pass.value = value_of(slot); });
  }
  core::Findings findings() const { return recorded_.findings(); }
  std::vector<std::string> doubtIds() {
    std::vector<std::string> ids;
    for (const core::Doubt& doubt : core::doubtsOf(study_, findings(), recorded_.recorded())) ids.push_back(doubt.id);
    return ids;
  }
  static bool contains(const std::vector<std::string>& ids, const std::string& id) {
    return std::find(ids.begin(), ids.end(), id) != ids.end();
  }

  static std::optional<double> tenPercent(const core::Slot& slot) {
    return (slot.configuration == core::ConfigurationId::Changed ? 110.0 : 100.0) + 0.3 * (slot.number % 3);
  }

  support::RecordedStudy recorded_;
  core::Study& study_ = recorded_.study;
  std::vector<core::Visit>& visits_ = recorded_.visits;
  std::vector<core::Pass>& passes_ = recorded_.passes;
  std::optional<core::NullRecord>& null_study_ = recorded_.also.null_study;
};

TEST_F(FindingsOf, ANullStudyStandsInForFlipsThatWereNotRepeated) {
  study_.plan.order = core::Order::Blocked;
  addCase("2K dome");
  record(tenPercent);
  const core::Findings alone = findings();
  EXPECT_TRUE(alone.cases[0].marks.holds_if_flips_add_nothing);
  EXPECT_TRUE(alone.null_study_date.empty());
  const std::vector<std::vector<double>> restarts{{100, 100.2}, {103, 103.3}, {99, 99.1},
                                                  {101, 101.3}, {98, 98.2},   {102, 102.1}};
  null_study_ = {"2026-11-20", {{alone.cases[0].title, restarts}, {alone.cases[1].title, restarts}}};
  const core::Findings known = findings();
  EXPECT_FALSE(known.cases[0].marks.holds_if_flips_add_nothing);
  EXPECT_FALSE(known.suite->marks.holds_if_flips_add_nothing);
  EXPECT_EQ(known.null_study_date, "2026-11-20");
  EXPECT_FALSE(known.cases[0].tipping_zero_percent);
  // The restarts' spread of about 2 % makes both intervals honest, and the suite's no narrower: all cases flip at once.
  EXPECT_GT(known.cases[0].change.interval->hi - known.cases[0].change.interval->lo, 5);
  EXPECT_GT(known.suite->improvement.interval->hi - known.suite->improvement.interval->lo, 5);
  null_study_->cases.pop_back();
  EXPECT_TRUE(findings().suite->marks.holds_if_flips_add_nothing) << "the null study lacks a case";
}

TEST_F(FindingsOf, ABlockedStudyHoldsOnlyIfFlippingAddsNothing) {
  record(tenPercent);
  const core::CaseFinding finding = findings().cases[0];
  EXPECT_EQ(finding.verdict, core::Verdict::Gain);
  EXPECT_TRUE(finding.marks.holds_if_flips_add_nothing);
  EXPECT_TRUE(finding.tipping_zero_percent && finding.tipping_threshold_percent);
  EXPECT_GT(*finding.tipping_zero_percent, *finding.tipping_threshold_percent);
  EXPECT_TRUE(contains(doubtIds(), "one_visit_per_level"));
}

TEST_F(FindingsOf, ARateIsToldAsTimeAFrameToo) {
  record([](const core::Slot& slot) { return slot.configuration == core::ConfigurationId::Changed ? 125.0 : 100.0; });
  const core::CaseFinding of_rate = findings().cases[0];
  EXPECT_NEAR(*of_rate.frame_ms_change, -2, 1e-9);
  EXPECT_NEAR(*of_rate.fps_gained, 25, 1e-9);
  study_.cases[0].metric = {"mean frame time", "ms", core::Direction::LowerIsBetter};
  record([](const core::Slot& slot) { return slot.configuration == core::ConfigurationId::Changed ? 8.0 : 10.0; });
  const core::CaseFinding of_time = findings().cases[0];
  EXPECT_NEAR(*of_time.frame_ms_change, -2, 1e-9);
  EXPECT_NEAR(*of_time.fps_gained, 25, 1e-9);
  EXPECT_NEAR(of_time.improvement.value, of_rate.improvement.value, 1e-9);
  study_.cases[0].metric = {"copied", "GB/s"};
  record(tenPercent);
  EXPECT_FALSE(findings().cases[0].frame_ms_change);
}

TEST_F(FindingsOf, ThereAndBackStandsWithoutThatMark) {
  study_.plan.order = core::Order::ThereAndBack;
  record(tenPercent);
  const core::CaseFinding finding = findings().cases[0];
  EXPECT_EQ(finding.effect->design.estimator, core::Estimator::Visits);
  EXPECT_FALSE(finding.marks.any());
  EXPECT_TRUE(contains(doubtIds(), "two_visits_per_level"));
  EXPECT_FALSE(contains(doubtIds(), "one_visit_per_level"));
}

// A second and a half of frames with a few long ones: enough for an average, too few for a low.
TEST_F(FindingsOf, FewFramesAndThinLowsAreSaid) {
  const auto record_frames = [&](std::size_t frames) {
    recorded_.record([&](core::Pass& pass, const core::Slot& slot) {
      std::vector<double> frame_ms(frames, slot.configuration == core::ConfigurationId::Changed ? 9.0 : 10.0);
      for (std::size_t i = 0; i < frames; i += 50) frame_ms[i] += 3 + 0.1 * slot.number;
      pass.frames = *core::summarizeFrames(frame_ms, study_.cases[0], study_.targets());
      pass.value = core::headlineOf(*pass.frames, study_.cases[0].metric);
    });
  };
  record_frames(150);
  EXPECT_TRUE(contains(doubtIds(), "too_few_frames/Ring pass, 4K dome"));
  EXPECT_TRUE(contains(doubtIds(), "thin_lows"));
  record_frames(500);
  EXPECT_FALSE(contains(doubtIds(), "too_few_frames/Ring pass, 4K dome")) << "500 are enough";
  EXPECT_TRUE(contains(doubtIds(), "thin_lows")) << "one frame in a hundred of 500 are five";
  record_frames(20000);
  EXPECT_FALSE(contains(doubtIds(), "thin_lows"));
}

TEST_F(FindingsOf, WithoutSpreadThereIsNoInterval) {
  record([](const core::Slot& slot) -> std::optional<double> {
    return slot.configuration == core::ConfigurationId::Changed ? 110.123456789 : 100.123456789;
  });
  const auto doubts = core::doubtsOf(study_, findings());
  const auto doubt = std::find_if(doubts.begin(), doubts.end(),
                                  [](const core::Doubt& one) { return one.id == "no_interval/Ring pass, 4K dome"; });
  ASSERT_NE(doubt, doubts.end());
  EXPECT_NE(doubt->sentence.find("resolution hides it"), std::string::npos);
  EXPECT_EQ(doubt->place, core::Place::RunSheet);
}

// Whole numbers that a program printed hide as much as typed ones: equal passes are known to half a digit, no better.
TEST_F(FindingsOf, OfWholeNumbersStandOnHalfADigit) {
  record([](const core::Slot& slot) -> std::optional<double> {
    return slot.configuration == core::ConfigurationId::Changed ? 110 : 100;
  });
  const auto finding = findings().cases[0];
  ASSERT_TRUE(finding.effect->contrast.inference);
  EXPECT_NEAR(*finding.effect->contrast.se, std::sqrt(1 / 12.0) * std::hypot(1 / 100.0, 1 / 110.0), 1e-12);
  EXPECT_EQ(finding.verdict, core::Verdict::Gain);
}

// A count of frames is exact, and what is worked out of frames has all its digits: neither hides behind a digit.
TEST_F(FindingsOf, WhatIsWorkedOutOfFramesIsNotRounded) {
  core::Visit visit;
  std::vector<core::Pass> passes(3);
  std::vector<core::CountedPass> counted;
  for (std::size_t i = 0; i < passes.size(); ++i) {
    passes[i].value = 60 + static_cast<double>(i);
    counted.push_back({&passes[i], &visit});
  }
  const auto resolution = [&] {
    return core::visitValues(counted, [](const core::Pass& pass) { return pass.value; }).at(0).resolution;
  };
  EXPECT_EQ(resolution(), 1) << "whole numbers that a program printed";
  for (core::Pass& pass : passes) pass.frames = core::FrameSummary{};
  EXPECT_EQ(resolution(), 0);
}

TEST_F(FindingsOf, OnePassALevelIsAMatterOfTheQuestion) {
  study_.plan.passes_per_level = 1;
  record(tenPercent);
  const auto doubts = core::doubtsOf(study_, findings());
  const auto doubt = std::find_if(doubts.begin(), doubts.end(),
                                  [](const core::Doubt& one) { return one.id == "no_interval/Ring pass, 4K dome"; });
  ASSERT_NE(doubt, doubts.end());
  EXPECT_NE(doubt->sentence.find("too few passes"), std::string::npos);
  EXPECT_EQ(doubt->place, core::Place::Question);
}

TEST_F(FindingsOf, AnUnfinishedPlanIsSoFar) {
  record(tenPercent);
  passes_.pop_back();
  EXPECT_TRUE(findings().cases[0].marks.is_so_far);
  EXPECT_TRUE(contains(doubtIds(), "so_far"));
}

TEST_F(FindingsOf, WarmUpsNeverCount) {
  study_.plan.warm_ups = 1;
  record([](const core::Slot& slot) { return slot.is_warm_up ? std::optional(1.0) : tenPercent(slot); });
  EXPECT_EQ(findings().cases[0].counted_baseline, 4);
  EXPECT_NEAR(findings().cases[0].effect->level_baseline, 100.3, 0.2);
}

TEST_F(FindingsOf, AFailedPassIsCountedOutAndSaid) {
  record([](const core::Slot& slot) {
    return slot.number == 2 && slot.configuration == core::ConfigurationId::Changed ? std::nullopt : tenPercent(slot);
  });
  EXPECT_EQ(findings().cases[0].counted_changed, 3);
  EXPECT_EQ(findings().failed_passes, 1);
  EXPECT_TRUE(findings().done.is_first_done);
  EXPECT_TRUE(contains(doubtIds(), "failed/Ring pass, 4K dome/6000 MT/s"));
}

TEST_F(FindingsOf, ManyNullCasesAreAdjustedForTheirNumber) {
  for (int i = 0; i < 9; ++i) addCase(std::to_string(i));
  // One case a little apart: clear on its own (p about 0.01), not among ten.
  record([](const core::Slot& slot) -> std::optional<double> {
    const double wobble = 0.8 * ((slot.number * 7 + static_cast<int>(slot.case_index)) % 4);
    return 100 + wobble + (slot.case_index == 0 && slot.configuration == core::ConfigurationId::Changed ? 2.6 : 0);
  });
  const core::CaseFinding finding = findings().cases[0];
  EXPECT_LT(finding.effect->contrast.inference->p, 0.05);
  EXPECT_EQ(finding.marks.not_after_adjustment_for, 10);
}

// The family is of those that have a p: a case without an interval is none of it, one in decibels is.
TEST_F(FindingsOf, TheFamilyIsOfThoseThatHaveAnInterval) {
  addCase("2K dome");
  addCase("8K dome");
  study_.cases[1].source = core::ResultSource::JsonField;
  study_.cases[1].metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 1};
  record([](const core::Slot& slot) -> std::optional<double> {
    if (slot.case_index == 2)
      return slot.configuration == core::ConfigurationId::Changed ? 110.123456789 : 100.123456789;  // no spread at all
    const double wobble = (slot.number * 7 + static_cast<int>(slot.case_index)) % 4;
    return 100 + wobble + (slot.configuration == core::ConfigurationId::Changed ? 2 : 0);
  });
  const core::Findings found = findings();
  EXPECT_FALSE(found.cases[2].p_holm);
  ASSERT_TRUE(found.cases[0].p_holm && found.cases[1].p_holm);
  const double first = found.cases[0].effect->contrast.inference->p;
  const double second = found.cases[1].effect->contrast.inference->p;
  EXPECT_NEAR(std::min(found.cases[0].p_holm->zero, found.cases[1].p_holm->zero),
              std::min(1.0, 2 * std::min(first, second)), 1e-12)
      << "two of three";
}

TEST_F(FindingsOf, NothingIsSaidWithAllPassesWhereNoneIsLeftOut) {
  record(tenPercent);
  EXPECT_FALSE(recorded_.judged().with_all);
  passes_[0].excluded_because = "power or the link failed for a moment";
  EXPECT_TRUE(recorded_.judged().with_all);
}

TEST_F(FindingsOf, TheSameInputGivesTheSameBits) {
  record(tenPercent);
  const auto once = findings();
  std::reverse(visits_.begin(), visits_.end());
  const auto again = findings();
  EXPECT_EQ(once.cases[0].effect->contrast.difference, again.cases[0].effect->contrast.difference);
  EXPECT_EQ(once.cases[0].effect->contrast.inference->p, again.cases[0].effect->contrast.inference->p);
}

TEST_F(FindingsOf, ATargetThatIsCrossedIsNamed) {
  study_.target_fps = 105;
  record(tenPercent);
  EXPECT_EQ(findings().cases[0].holds_baseline, core::HoldsTarget::Fails);
  EXPECT_EQ(findings().cases[0].holds_changed, core::HoldsTarget::Holds);
}

void expectSameSuite(const core::Findings& kept, const core::Findings& anew, const char* after) {
  ASSERT_EQ(kept.suite.has_value(), anew.suite.has_value()) << after;
  if (!anew.suite) return;
  EXPECT_EQ(kept.suite->improvement.value, anew.suite->improvement.value) << after;
  EXPECT_EQ(kept.suite->cases, anew.suite->cases) << after;
  EXPECT_EQ(kept.suite->verdict, anew.suite->verdict) << after;
}

// Whatever changes between two looks, what is remembered is what would be found anew.
TEST_F(FindingsOf, AreTheSameFromMemory) {
  addCase("2K dome");
  record(tenPercent);
  core::CaseMemory memory;
  core::JudgementMemory of_all;
  std::vector<std::int64_t> retired;
  const auto expectSame = [&](const char* after) {
    const core::Findings anew = core::findingsOf(study_, recorded_.recorded(), retired);
    const core::Findings kept = core::findingsOf(study_, recorded_.recorded(), retired, {}, &memory);
    for (std::size_t i = 0; i < anew.cases.size(); ++i) {
      EXPECT_EQ(kept.cases[i].counted, anew.cases[i].counted) << after;
      EXPECT_EQ(kept.cases[i].left_out.size(), anew.cases[i].left_out.size()) << after;
      EXPECT_EQ(kept.cases[i].change.value, anew.cases[i].change.value) << after;
      EXPECT_EQ(kept.cases[i].verdict, anew.cases[i].verdict) << after;
      EXPECT_EQ(kept.cases[i].p_holm, anew.cases[i].p_holm) << after;
      EXPECT_EQ(kept.cases[i].threshold.gain_percent, anew.cases[i].threshold.gain_percent) << after;
      EXPECT_EQ(kept.cases[i].effect && kept.cases[i].effect->flip, anew.cases[i].effect && anew.cases[i].effect->flip)
          << after;
    }
    expectSameSuite(kept, anew, after);
    const core::Record record = recorded_.recorded();
    const core::Judgement judged = core::judgementOf(study_, record);
    const core::Judgement from_memory =
        core::judgementOf(study_, record, core::proveSteps(study_, record), {}, &of_all);
    expectSameSuite(from_memory.findings, judged.findings, after);
    ASSERT_EQ(from_memory.with_all.has_value(), judged.with_all.has_value()) << after;
    if (judged.with_all) expectSameSuite(*from_memory.with_all, *judged.with_all, after);
    ASSERT_EQ(from_memory.shape.contrasts.size(), judged.shape.contrasts.size()) << after;
    for (std::size_t i = 0; i < judged.shape.contrasts.size(); ++i)
      EXPECT_EQ(from_memory.shape.contrasts[i].improvement.value, judged.shape.contrasts[i].improvement.value) << after;
  };
  expectSame("nothing");
  ASSERT_TRUE(findings().suite);
  passes_[1].excluded_because = "the door was open";
  expectSame("a pass was left out");
  passes_[1].excluded_because.clear();
  expectSame("it was put back");
  passes_[0].value = *passes_[0].value * 1.2;
  expectSame("a value was mended");
  study_.notice_threshold_percent = 15;
  expectSame("another threshold");
  const std::vector<std::vector<double>> restarts{{100, 100.2}, {103, 103.3}, {99, 99.1},
                                                  {101, 101.3}, {98, 98.2},   {102, 102.1}};
  null_study_ = {"2026-11-20", {{findings().cases[0].title, restarts}}};
  expectSame("a null study");
  retired = {visits_[0].id};
  expectSame("a visit that is not comparable");
}

TEST_F(FindingsOf, AnAcceptedDoubtSinksAndKeepsItsReason) {
  record(tenPercent);
  core::Record accepted;
  accepted.acceptances = {{"one_visit_per_level", "the board is rebooted every night"}};
  const auto doubts = core::doubtsOf(study_, findings(), accepted);
  EXPECT_EQ(doubts.back().id, "one_visit_per_level");
  EXPECT_EQ(doubts.back().accepted_because, "the board is rebooted every night");
}

TEST_F(FindingsOf, TheClaimIsOneSentence) {
  EXPECT_EQ(core::claimOf(study_, findings()).sentence(),
            "On Dome node 3, moving the memory speed from 4800 MT/s to 6000 MT/s changes average FPS over Ring pass, "
            "4K dome by … not measured yet");
  record(tenPercent);
  EXPECT_TRUE(core::claimOf(study_, findings()).sentence().ends_with(": gain, if flipping adds nothing"));
}

// A control beside the only case is no second case: the claim is about the one that is to respond, whichever stands
// first.
TEST_F(FindingsOf, TheClaimOfOneCaseStandsBesideItsControl) {
  addCase("2K dome");
  study_.cases[0].is_control = true;
  record([](const core::Slot& slot) { return slot.case_index == 1 ? tenPercent(slot) : 50 + 0.1 * (slot.number % 3); });
  const core::Findings found = findings();
  ASSERT_FALSE(found.suite);
  ASSERT_NE(core::headlineCase(study_, found), nullptr);
  EXPECT_EQ(core::headlineCase(study_, found)->title, "Ring pass, 2K dome");
  EXPECT_EQ(core::headlineVerdict(study_, found), found.cases[1].verdict);
  const core::Claim claim = core::claimOf(study_, found);
  EXPECT_TRUE(claim.has_result);
  EXPECT_NE(claim.sentence().find("over Ring pass, 2K dome by +10.0 %"), std::string::npos) << claim.sentence();
  study_.cases[0].is_control = false;  // two that are to respond: neither stands for the other
  core::Findings open = found;
  open.suite.reset();
  EXPECT_EQ(core::headlineCase(study_, open), nullptr);
}

}  // namespace
