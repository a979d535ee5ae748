// What a pass says beside its headline: judged as a headline is, in families of its own.
#include "core/findings/further_results.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "core/judgement/judgement.h"
#include "support/recorded_study.h"

namespace {

using core::ConfigurationId;

core::CaseResult resultOf(const char* name, core::Direction direction = core::Direction::HigherIsBetter) {
  core::CaseResult result;
  result.name = name;
  result.source = core::ResultSource::JsonField;
  result.field = name;
  result.metric = {name, "points", direction};
  return result;
}

/// Rounds over so many levels, of cases that all have the same further results.
support::RecordedStudy studyOf(std::size_t levels, int cases, const std::vector<core::CaseResult>& results,
                               int rounds = 6) {
  support::RecordedStudy made{support::studyOf({"true"})};
  core::Study& study = made.study;
  if (levels > 2) study.shape = core::Shape::Ladder;
  while (study.variable().levels.size() < levels) {
    study.variable().levels.push_back(study.variable().levels.back());
    study.variable().levels.back().name += "+";
  }
  study.cases.resize(1);
  study.cases[0].source = core::ResultSource::JsonField;
  study.cases[0].metric = {"score", "points"};
  study.cases[0].further = results;
  for (int i = 1; i < cases; ++i) {
    study.cases.push_back(study.cases[0]);
    study.cases.back().preset = "preset " + std::to_string(i);
  }
  study.plan.order = core::Order::BalancedShuffle;
  study.plan.rounds = rounds;
  study.plan.passes_per_visit = 2;
  study.plan.warm_ups = 0;
  study.plan.is_sealed = false;
  study.plan.drawn = core::drawRoundsOf(study, study.plan, rounds, 3);
  return made;
}

double swing(const core::Slot& slot) { return std::sin(1.7 * slot.visit + 0.9 * slot.number); }

core::Judgement judged(const support::RecordedStudy& study) {
  const core::Record record = study.recorded();
  return core::judgementOf(study.study, record);
}

const core::FurtherFinding& named(const support::RecordedStudy& study, const core::Judgement& judgement,
                                  const std::string& name) {
  static const core::FurtherFinding kNone;
  for (const core::FurtherFinding& one : judgement.further)
    if (study.study.cases[one.case_index].further[one.place].name == name) return one;
  ADD_FAILURE() << "no result is called " << name;
  return kNone;
}

TEST(FurtherResults, AreJudgedAsTheirHeadlineIsWhereTheySayTheSame) {
  for (const std::size_t levels : {2U, 3U}) {
    support::RecordedStudy study =
        studyOf(levels, 3, {resultOf("same"), resultOf("halved", core::Direction::LowerIsBetter)});
    study.record([&](core::Pass& pass, const core::Slot& slot) {
      const double level = static_cast<double>(core::placeOf(slot.configuration));
      pass.value = 100 + 4 * level + 0.4 * swing(slot) + static_cast<double>(slot.case_index);
      pass.further = {{*pass.value, ""}, {5000 / *pass.value, ""}};
    });
    const core::Judgement judgement = judged(study);
    ASSERT_EQ(judgement.further.size(), 6U);
    for (const core::CaseFinding& headline : judgement.findings.cases) {
      const auto own = core::furtherOf(judgement.further, headline.case_index);
      ASSERT_EQ(own.size(), 2U);
      for (const core::FurtherFinding* one : own) {
        ASSERT_TRUE(one->improvement && one->improvement->interval && one->p_holm && headline.p_holm);
        EXPECT_NEAR(one->improvement->value, headline.improvement.value, 1e-9);
        EXPECT_NEAR(one->improvement->interval->lo, headline.improvement.interval->lo, 1e-9);
        EXPECT_NEAR(one->improvement->interval->hi, headline.improvement.interval->hi, 1e-9);
        EXPECT_NEAR(one->p_holm->zero, headline.p_holm->zero, 1e-9) << levels;
        EXPECT_EQ(one->verdict, headline.verdict);
        EXPECT_EQ(one->marks.names(), headline.marks.names());
        EXPECT_EQ(one->at.size(), levels);
        for (const core::ResultAt& at : one->at) EXPECT_EQ(at.passes, 12);
      }
      EXPECT_NEAR(own[0]->at[0].mean, *judgement.shape.valuesOf(headline.case_index)->at[0].mean, 1e-9);
    }
    EXPECT_TRUE(std::none_of(judgement.doubts.begin(), judgement.doubts.end(),
                             [](const core::Doubt& one) { return one.kind == &core::doubt::kFurtherMissing; }));
  }
}

TEST(FurtherResults, WithoutANumberLeaveTheOthersOfTheirPassStanding) {
  support::RecordedStudy study = studyOf(2, 1, {resultOf("often"), resultOf("always")});
  int passes = 0;
  study.record([&](core::Pass& pass, const core::Slot& slot) {
    const bool is_changed = slot.configuration == ConfigurationId::Changed;
    pass.value = (is_changed ? 110 : 100) + 0.4 * swing(slot);
    const bool is_missing = passes++ == 3;
    pass.further = {
        is_missing ? core::FurtherValue{{}, "standard output: nothing matches."} : core::FurtherValue{*pass.value, ""},
        {*pass.value, ""}};
  });
  const core::Judgement judgement = judged(study);
  const core::FurtherFinding& often = named(study, judgement, "often");
  EXPECT_EQ(often.missing, 1);
  EXPECT_EQ(often.at[0].passes + often.at[1].passes, passes - 1);
  EXPECT_EQ(named(study, judgement, "always").missing, 0);
  EXPECT_EQ(often.verdict, core::Verdict::Gain);
  EXPECT_TRUE(std::any_of(judgement.doubts.begin(), judgement.doubts.end(), [](const core::Doubt& one) {
    return one.sentence == "often of Ring pass, 4K dome is missing in 1 pass: standard output: nothing matches";
  })) << study.study.cases[0].title();
}

TEST(FurtherResults, ThatShouldNotRespondAndDoAreDoubted) {
  core::CaseResult control = resultOf("threads");
  control.is_control = true;
  support::RecordedStudy study = studyOf(2, 1, {control});
  study.record([&](core::Pass& pass, const core::Slot& slot) {
    const bool is_changed = slot.configuration == ConfigurationId::Changed;
    pass.value = 100 + 0.4 * swing(slot);
    pass.further = {{(is_changed ? 110 : 100) + 0.4 * swing(slot), ""}};
  });
  core::Judgement judgement = judged(study);
  const auto moved = [&] {
    return std::count_if(judgement.doubts.begin(), judgement.doubts.end(),
                         [](const core::Doubt& one) { return one.kind == &core::doubt::kControlMoved; });
  };
  EXPECT_EQ(moved(), 1);
  study.study.cases[0].further[0].is_control = false;
  judgement = judged(study);
  EXPECT_EQ(moved(), 0);
  study.study.plan.is_sealed = true;
  study.passes.pop_back();
  EXPECT_TRUE(judged(study).further.empty()) << "sealed with all that tells of the effect";
}

TEST(FurtherResults, AreToldAsTheyMovedWhereLessIsBetter) {
  core::CaseResult time = resultOf("load time", core::Direction::LowerIsBetter);
  time.is_control = true;
  core::CaseResult noise = resultOf("noise", core::Direction::LowerIsBetter);
  noise.metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 1};
  support::RecordedStudy study = studyOf(2, 1, {time, noise});
  study.record([&](core::Pass& pass, const core::Slot& slot) {
    const bool is_changed = slot.configuration == ConfigurationId::Changed;
    pass.value = 100 + 0.4 * swing(slot);
    pass.further = {{(is_changed ? 110 : 100) * std::exp(0.001 * swing(slot)), ""},
                    {(is_changed ? 37 : 40) + 0.1 * swing(slot), ""}};
  });
  const core::Judgement judgement = judged(study);
  EXPECT_TRUE(std::any_of(judgement.doubts.begin(), judgement.doubts.end(), [](const core::Doubt& one) {
    return one.sentence.starts_with("load time of Ring pass, 4K dome moved by +10.0 % (");
  }));
  EXPECT_LT(named(study, judgement, "load time").improvement->value, -9);
  const std::string quieter = core::furtherText(named(study, judgement, "noise"), study.study);
  EXPECT_NE(quieter.find("; change −3.0"), std::string::npos) << quieter;
  EXPECT_TRUE(quieter.ends_with(": gain")) << quieter;
}

TEST(FurtherResults, NameTheirFamilyAndNoOther) {
  // Of three cases one has a p of about 0.03 alone: it stays below 0.05 only where it is the only one of its name.
  support::RecordedStudy study = studyOf(2, 3, {resultOf("common")});
  study.study.cases[0].further.push_back(resultOf("alone"));
  study.record([&](core::Pass& pass, const core::Slot& slot) {
    const bool is_changed = slot.configuration == ConfigurationId::Changed;
    pass.value = 100 + swing(slot);
    const double moved = 100 + (is_changed && slot.case_index == 0 ? 1.1 : 0) + 1.3 * swing(slot);
    pass.further = {{moved, ""}};
    if (slot.case_index == 0) pass.further.push_back({moved, ""});
  });
  const core::Judgement judgement = judged(study);
  const core::FurtherFinding& common = named(study, judgement, "common");
  const core::FurtherFinding& alone = named(study, judgement, "alone");
  ASSERT_TRUE(common.p && alone.p && common.p_holm && alone.p_holm);
  EXPECT_EQ(common.p->zero, alone.p->zero);
  EXPECT_EQ(alone.p_holm->zero, alone.p->zero);
  EXPECT_GT(common.p_holm->zero, 2.5 * alone.p_holm->zero);
}

// Five results of six cases, none of which responds, and a spread that they share: as programs print scores that hang
// together.
TEST(FurtherResults, OfSimulatedStudiesHoldTheTruthAndClaimLittle) {
  constexpr int kStudies = 400;
  std::vector<core::CaseResult> results;
  for (const char* name : {"a", "b", "c", "d", "e"}) results.push_back(resultOf(name));
  support::RecordedStudy study = studyOf(2, 6, results, 8);
  std::mt19937_64 random(20261130);
  std::normal_distribution<double> normal;
  constexpr double kTruth = 3;
  int intervals = 0;
  int held = 0;
  std::vector<int> claimed_of_name(results.size());
  for (int i = 0; i < kStudies; ++i) {
    const bool has_effect = i % 2 == 0;
    study.visits.clear();
    study.passes.clear();
    std::map<int, double> flips;
    study.record([&](core::Pass& pass, const core::Slot& slot) {
      if (!flips.contains(slot.visit)) flips[slot.visit] = 0.005 * normal(random);
      const double truth = has_effect && slot.configuration == ConfigurationId::Changed ? 1 + kTruth / 100 : 1;
      const auto draw = [&] { return 1000 * truth * std::exp(flips[slot.visit] + 0.01 * normal(random)); };
      pass.value = draw();
      for (std::size_t one = 0; one < results.size(); ++one) pass.further.push_back({draw(), ""});
    });
    const core::Record record = study.recorded();
    std::vector<bool> is_claimed(results.size());
    for (const core::FurtherFinding& one : core::furtherFindingsOf(study.study, record, {}, {}, {true, true})) {
      const auto& interval = one.improvement->interval;
      const double truth = has_effect ? kTruth : 0;
      ++intervals;
      held += interval->lo <= truth && truth <= interval->hi;
      if (!has_effect && (one.doesGain() || one.doesLose())) is_claimed[one.place] = true;
    }
    for (std::size_t one = 0; one < results.size(); ++one) claimed_of_name[one] += is_claimed[one];
  }
  EXPECT_NEAR(100.0 * held / intervals, 95, 1.5);
  for (const int claimed : claimed_of_name)
    EXPECT_LE(claimed, 18) << "of 200 studies without effect, 5 in 100 and 3 sd";
}

}  // namespace
