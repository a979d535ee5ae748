// A case beside its companion against the same alone; what still lacks to the target; who gains and who loses.
#include <gtest/gtest.h>

#include <cmath>

#include "core/findings/holds_target.h"
#include "core/study/companion.h"
#include "support/recorded_study.h"

namespace {

using core::BesideReading;
using core::ConfigurationId;

// Rounds of two levels; the second case is the first with something beside it.
support::RecordedStudy besideStudy(int rounds = 6) {
  support::RecordedStudy made{support::roundsOf(rounds, 2)};
  made.study.cases.push_back(made.study.cases[0]);
  made.study.cases[1].companion = {{"/opt/tools/recorder", "--high"}, "a recording", 5};
  return made;
}

// Rates by case and level; the visits of each level drift alike in both cases, far more than the passes scatter.
void recordRates(support::RecordedStudy& made, const std::array<std::array<double, 2>, 2>& rates) {
  made.record([&](core::Pass& pass, const core::Slot& slot) {
    const double flip = 0.05 * std::sin(2.9 * slot.visit);
    const double wobble = 0.001 * std::sin(1.7 * slot.visit + 0.9 * slot.number + static_cast<double>(slot.case_index));
    pass.value = rates.at(slot.case_index).at(core::placeOf(slot.configuration)) * std::exp(flip + wobble);
  });
}

TEST(CompanionFindings, HoldACaseAgainstItselfAloneAtEachLevelWithoutTheNoiseOfTheFlips) {
  support::RecordedStudy made = besideStudy();
  recordRates(made, {{{100, 110}, {80, 104.5}}});  // costs 20 % at the one level, 5 % at the other
  const auto judged = made.judged();
  ASSERT_EQ(judged.companions.size(), 1U);
  const core::CompanionFinding& found = judged.companions[0];
  EXPECT_EQ(found.case_index, 1U);
  EXPECT_EQ(found.alone_index, 0U);
  ASSERT_EQ(found.at.size(), 2U);
  EXPECT_EQ(found.at[0].passes, 12);
  EXPECT_NEAR(found.at[0].improvement->value, -20, 0.2);
  EXPECT_NEAR(found.at[1].improvement->value, -5, 0.2);
  EXPECT_LT(found.at[0].improvement->interval->hi - found.at[0].improvement->interval->lo, 0.5)
      << "flips that move both by 5 % are in neither";
  EXPECT_NEAR(found.improvement->value, 100 * (1.045 / 1.1 / 0.8 - 1), 0.3);
  EXPECT_EQ(found.reading(), BesideReading::More);
  EXPECT_EQ(core::companionText(found, made.study, judged.pair).substr(0, 53),
            "Ring pass, 4K dome, beside a recording, against alone")
      << core::companionText(found, made.study, judged.pair);
}

TEST(CompanionFindings, TellLessTheSameAndWhatIsNotSettled) {
  support::RecordedStudy made = besideStudy();
  recordRates(made, {{{100, 120}, {90, 97.2}}});
  EXPECT_EQ(made.judged().companions[0].reading(), BesideReading::Less);
  recordRates(made, {{{100, 120}, {90, 108}}});
  EXPECT_EQ(made.judged().companions[0].reading(), BesideReading::Same);
  support::RecordedStudy once = besideStudy(1);
  once.study.plan.passes_per_visit = 1;
  recordRates(once, {{{100, 120}, {90, 97.2}}});
  EXPECT_EQ(once.judged().companions[0].reading(), BesideReading::Open);
}

TEST(CompanionFindings, AreOfTimesAndDifferencesToo) {
  support::RecordedStudy made = besideStudy();
  for (core::Case& one : made.study.cases) one.metric = {"render time", "s", core::Direction::LowerIsBetter};
  recordRates(made, {{{100, 110}, {125, 137.5}}});
  EXPECT_NEAR(made.judged().companions[0].at[0].improvement->value, -20, 0.2) << "25 % more time is a fifth less done";
  for (core::Case& one : made.study.cases)
    one.metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 0.5};
  recordRates(made, {{{30, 31}, {34, 31}}});
  const core::CompanionFinding found = made.judged().companions[0];
  EXPECT_NEAR(found.at[0].difference->value, 4, 0.3) << "the metric itself rose";
  EXPECT_FALSE(found.at[0].improvement);
  EXPECT_EQ(found.reading(), BesideReading::More) << "the change takes 4 dB more off beside it";
}

TEST(CompanionFindings, NeedPassesOfBothInOneVisitAndAreHiddenWhileSealed) {
  support::RecordedStudy made = besideStudy();
  made.record([&](core::Pass& pass, const core::Slot& slot) {
    if (slot.case_index == 0) pass.value = 100;  // the other one fails everywhere
  });
  const auto judged = made.judged();
  ASSERT_EQ(judged.companions.size(), 1U);
  EXPECT_TRUE(judged.companions[0].at.empty());
  EXPECT_EQ(core::companionText(judged.companions[0], made.study, judged.pair),
            "Ring pass, 4K dome, beside a recording, against alone: no visit has passes of both yet");
  recordRates(made, {{{100, 110}, {80, 104}}});
  made.study.plan.is_sealed = true;
  made.passes.pop_back();
  EXPECT_TRUE(made.judged().companions.empty());
}

TEST(Companion, OfACaseIsFoundByEverythingElseThatIsRun) {
  support::RecordedStudy made = besideStudy();
  made.study.cases[1].audience = "shows";
  EXPECT_EQ(core::sameCaseAlone(made.study, 1), 0U) << "whom it stands for changes nothing that is run";
  EXPECT_EQ(core::sameCaseAlone(made.study, 0), std::nullopt);
  made.study.cases[1].command.push_back("--other");
  EXPECT_EQ(core::sameCaseAlone(made.study, 1), std::nullopt);
  EXPECT_EQ((core::Companion{{"/opt/tools/recorder"}, "", 5}).called(), "recorder");
}

TEST(Companion, ThatCannotWorkIsRefusedWithPlaceAndRemedy) {
  const auto problemOf = [](const core::Companion& companion, const std::function<void(core::Case&)>& change = {}) {
    core::Study study = support::timedStudyOf({"work"});
    study.cases[0].companion = companion;
    if (change) change(study.cases[0]);
    const auto problems = core::problemsOf(study);
    return problems.empty() ? std::string() : problems[0].sentence();
  };
  EXPECT_EQ(problemOf({{"load"}, "", 5}), "");
  EXPECT_NE(problemOf({{"load", "{log}"}, "", 5}).find("the frame log belongs to the case"), std::string::npos);
  EXPECT_NE(problemOf({{"load"}, "", -1}).find("starts 0 to 600 s before it"), std::string::npos);
  EXPECT_NE(problemOf({{"load"}, "", std::nan("")}).find("starts 0 to 600 s before it"), std::string::npos);
  EXPECT_NE(problemOf({{" "}, "", 5}).find("no program, or no short name"), std::string::npos);
  EXPECT_EQ(problemOf({{"work"}, "", 5}), "") << "two of the same program may run side by side";
  const auto of_file = [](core::Case& a_case) {
    a_case.source = core::ResultSource::File;
    a_case.path = "r.json";
  };
  EXPECT_NE(problemOf({{"work"}, "", 5}, of_file).find("both would write the file"), std::string::npos);
  const auto by_hand = [](core::Case& a_case) { a_case.source = core::ResultSource::ByHand; };
  EXPECT_NE(problemOf({{"load"}, "", 5}, by_hand).find("a result that is typed"), std::string::npos);
}

TEST(NeededForTheTarget, IsWhatTheMeanRateLacksWithItsInterval) {
  const core::Study study = support::studyOf({"ring", "{log}"});
  const core::Metric rate;
  const std::vector<double> units{std::log(49.0), std::log(50.0), std::log(51.0)};
  const auto needed = core::neededFor(units, true, rate, study, 60);
  ASSERT_TRUE(needed);
  EXPECT_NEAR(needed->value, 20, 0.1);  // 60 / 50, geometric
  // sd of the logarithms 0.02, t(2) 4.303: half-width 0.0497
  EXPECT_NEAR(needed->interval->lo, 14.2, 0.1);
  EXPECT_NEAR(needed->interval->hi, 26.1, 0.1);
  EXPECT_FALSE(core::neededFor(units, true, rate, study, 45)) << "it is enough";
  EXPECT_FALSE(core::neededFor(units, true, {"time", "s", core::Direction::LowerIsBetter}, study, 60));
  const core::LevelValue value{50, core::HoldsTarget::Fails, needed};
  EXPECT_EQ(core::levelText(value, rate, study),
            "50.0 FPS, below the target rate of 60.0 FPS: it would take 20.0 % more");
}

TEST(Audiences, AreSummedUpEachByItself) {
  support::RecordedStudy made{support::roundsOf(6, 2)};
  core::Study& study = made.study;
  for (const char* preset : {"6K dome", "8K dome"}) {
    study.cases.push_back(study.cases[0]);
    study.cases.back().preset = preset;
  }
  study.cases[0].audience = study.cases[1].audience = "shows";
  study.cases[2].audience = "research";
  made.record([&](core::Pass& pass, const core::Slot& slot) {
    const double factor = slot.configuration == ConfigurationId::Baseline ? 1 : slot.case_index == 2 ? 0.9 : 1.1;
    pass.value =
        100 * factor *
        std::exp(0.001 * std::sin(1.7 * slot.visit + 0.9 * slot.number + static_cast<double>(slot.case_index)));
  });
  const core::Findings findings = made.findings();
  const auto& audiences = findings.readings->audiences;
  ASSERT_EQ(audiences.size(), 2U);
  EXPECT_EQ(audiences[0].name, "shows");
  EXPECT_EQ(audiences[0].cases, 2);
  EXPECT_NEAR(audiences[0].improvement.value, 10, 0.3);
  EXPECT_EQ(audiences[0].verdict, core::Verdict::Gain);
  EXPECT_EQ(audiences[1].name, "research");
  EXPECT_EQ(audiences[1].verdict, core::Verdict::Loss);
  study.cases[2].audience = "shows";
  EXPECT_TRUE(made.findings().readings->audiences.empty()) << "one audience is the suite";
}

}  // namespace
