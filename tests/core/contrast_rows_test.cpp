// The words in which a ladder, a crossing and a chain say what they found: window, page and terminal print these.
#include "core/findings/contrast_rows.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/judgement/judgement.h"
#include "support/recorded_study.h"

namespace {

using core::Verdict;

constexpr double kSpread = 0.0005;

std::vector<std::string> headings(const std::vector<core::ContrastSection>& sections) {
  std::vector<std::string> all;
  for (const core::ContrastSection& one : sections) all.push_back(one.heading);
  return all;
}

TEST(InteractionWords, FollowTheVerdictAndCarryItsMarks) {
  core::ContrastFinding found;
  core::AskedContrast asked;
  asked.at = "Gen 4";
  const auto text = [&](Verdict verdict) {
    found.verdict = verdict;
    return core::interactionText(found, asked);
  };
  EXPECT_EQ(text(Verdict::Gain), "the effect is larger at Gen 4");
  EXPECT_EQ(text(Verdict::Loss), "the effect is smaller at Gen 4");
  EXPECT_EQ(text(Verdict::GainSizeNotSettled), "the effect is larger at Gen 4, by how much is not settled");
  EXPECT_EQ(text(Verdict::LossSizeNotSettled), "the effect is smaller at Gen 4, by how much is not settled");
  EXPECT_EQ(text(Verdict::RealButNegligible), "the effect is the same at Gen 4, as far as it matters");
  EXPECT_EQ(text(Verdict::NoDifferenceThatMatters), "the effect is the same at Gen 4, as far as it matters");
  EXPECT_EQ(text(Verdict::NotSettled), "whether the effect differs at Gen 4 is not settled");
  found.marks.is_so_far = true;
  EXPECT_EQ(text(Verdict::Gain), "the effect is larger at Gen 4, provisional");
}

TEST(ShareWords, AreWholePercentsWithATrueMinus) {
  core::LossStep step;
  step.share = 0.567;
  EXPECT_EQ(core::shareText(step), "57 % of it");
  step.interval = {-0.021, 1.004};
  EXPECT_EQ(core::shareText(step), "57 % of it (−2 to 100)");
  step.share = -0.004;  // nothing: no minus before a 0
  EXPECT_EQ(core::shareText(step), "0 % of it (−2 to 100)");
}

TEST(RowsOfACrossing, AnswerEachVariableAtEachLevelOfTheOtherAndOnAverage) {
  support::RecordedStudy crossed{support::crossedOf()};
  crossed.recordRates({50, 51, 60, 65.5}, kSpread);
  const core::Judgement judged = crossed.judged();
  const auto sections = core::contrastSections(crossed.study, judged.shape, 0);
  EXPECT_EQ(headings(sections), (std::vector<std::string>{
                                    "What the graphics link does at each level of the large aperture",
                                    "What the large aperture does at each level of the graphics link",
                                    "Does that depend on the large aperture?", "What the graphics link does on average",
                                    "What the large aperture does on average"}));
  ASSERT_EQ(sections[0].rows.size(), 2U);
  EXPECT_EQ(sections[0].rows[0].title, "Gen 3 to Gen 4, at off");
  EXPECT_EQ(sections[0].rows[1].title, "Gen 3 to Gen 4, at on");
  EXPECT_TRUE(sections[0].rows[1].change.starts_with("+28.4 % (")) << sections[0].rows[1].change;
  EXPECT_EQ(sections[0].rows[1].verdict, "gain");
  EXPECT_TRUE(sections[0].rows[1].is_counted);
  EXPECT_EQ(sections[2].rows[0].verdict, "the effect is larger at on");
}

TEST(RowsOfAChain, SayWhichPartOfTheLossEachStepIs) {
  support::RecordedStudy chain{support::chainOf()};
  chain.recordRates({100, 94, 80, 76}, kSpread);
  core::Judgement judged = chain.judged();
  auto sections = core::contrastSections(chain.study, judged.shape, 0);
  EXPECT_EQ(headings(sections), (std::vector<std::string>{"Where the change comes from", "In all"}));
  ASSERT_EQ(sections[0].rows.size(), 3U);
  EXPECT_EQ(sections[0].rows[0].title, "full-width slot to same slot, 4 lanes");
  EXPECT_TRUE(sections[0].rows[1].remark.starts_with("59 % of it (")) << sections[0].rows[1].remark;
  EXPECT_EQ(sections[1].rows[0].title, "full-width slot to box, own screen");
  EXPECT_EQ(sections[1].rows[0].remark, "");
  chain.recordRates({100, 94, 106, 100}, 0.003);  // down and up again: no whole that could be shared
  judged = chain.judged();
  sections = core::contrastSections(chain.study, judged.shape, 0);
  EXPECT_EQ(sections[0].rows[1].remark, "");
}

TEST(RowsOfALadder, AreNamedEvenWhereALevelWasNotReached) {
  support::RecordedStudy ladder{support::ladderOf()};
  ladder.recordRates({60, 80, 95, 96}, kSpread);
  const auto schedule = core::scheduleOf(ladder.study);
  std::erase_if(ladder.passes, [&](const core::Pass& pass) { return core::placeOf(schedule[pass.slot].side) == 3; });
  ladder.also.unreachable = {{core::configurationAt(3), "it does not start"}};
  const core::Judgement judged = ladder.judged();
  const auto sections = core::contrastSections(ladder.study, judged.shape, 0);
  EXPECT_EQ(sections[0].rows.back().title, "Gen 3 to Gen 4");
  EXPECT_EQ(sections[0].rows.back().verdict, "not measured wherever it takes");
  EXPECT_FALSE(sections[0].rows.back().percent);
  EXPECT_FALSE(sections[0].rows.back().is_counted);
}

TEST(RowsOfDecibels, StandInTheirUnit) {
  support::RecordedStudy ladder{support::ladderOf()};
  ladder.study.cases[0].source = core::ResultSource::JsonField;
  ladder.study.cases[0].metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 1};
  ladder.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value = 40 - 3.0 * static_cast<double>(core::placeOf(slot.side)) + 0.1 * (slot.visit % 3);
  });
  const core::Judgement judged = ladder.judged();
  const auto rows = core::contrastSections(ladder.study, judged.shape, 0)[0].rows;
  EXPECT_EQ(rows[0].change.find("%"), std::string::npos) << rows[0].change;
  EXPECT_NE(rows[0].change.find(" dB ("), std::string::npos) << rows[0].change;
  EXPECT_EQ(rows[0].verdict, "gain") << "three decibels less";
  EXPECT_FALSE(rows[0].percent);
  double sum = 0;
  int passes = 0;
  for (const core::Pass& pass : ladder.passes)
    if (core::scheduleOf(ladder.study)[pass.slot].side == core::configurationAt(0)) {
      sum += *pass.value;
      ++passes;
    }
  EXPECT_NEAR(*judged.shape.valuesOf(0)->at[0].mean, sum / passes, 1e-9) << "differences have a plain mean";
}

TEST(EnoughWords, SayTheLevelNoneOrWhyNot) {
  support::RecordedStudy ladder{support::ladderOf()};
  const auto text = [&] { return core::enoughText(ladder.study, ladder.judged().shape, 0); };
  EXPECT_EQ(text(), "Which level is enough cannot be said yet: a level has no interval");
  ladder.recordRates({60, 80, 99.9, 100}, kSpread);
  EXPECT_EQ(text(),
            "Gen 3 is enough: it and whatever offers more fall short of the best by less than 2 %. A level truly close "
            "enough may be passed over");
  ladder.passes.pop_back();  // one is still to come
  EXPECT_TRUE(text().starts_with("Gen 3 is enough, provisionally: it and")) << text();
  EXPECT_NE(ladder.judged().claim.sentence().find(": Gen 3 is enough, provisionally; Gen 4 over"), std::string::npos)
      << ladder.judged().claim.sentence();
  ladder.recordRates({60, 80, 95, 90}, kSpread);  // the strongest is not the best
  EXPECT_TRUE(text().starts_with("No level is enough: the strongest falls short of the best by as much as matters"))
      << text();
  ladder.recordRates({60, 100, 90, 100}, kSpread);  // one below would do, and the one between would not
  EXPECT_NE(text().find("; Gen 2 would be by itself"), std::string::npos) << text();
  EXPECT_EQ(core::enoughText(support::chainOf(), {}, 0), "");
}

TEST(CeilingWords, AreInTheMetricsUnit) {
  core::Study study = support::ladderOf();
  core::LadderFinding ladder;
  EXPECT_EQ(core::ceilingText(study, ladder), "");
  ladder.case_index = 0;
  ladder.model.emplace();
  EXPECT_EQ(core::ceilingText(study, ladder), "") << "a model without a ceiling";
  ladder.model->t0_ms = 8;
  ladder.model->ceiling_fps = 125;
  EXPECT_EQ(core::ceilingText(study, ladder), "an endless link: 125.0 FPS");
  ladder.model->t0_interval = {7.8125, 8.0645};
  EXPECT_EQ(core::ceilingText(study, ladder), "an endless link: 125.0 FPS (124.0 to 128.0)");
  ladder.model->t0_interval = {-1, 8.1};  // no ceiling is sure
  EXPECT_EQ(core::ceilingText(study, ladder), "an endless link: 125.0 FPS");
  study.cases[0].metric = {"mean frame time", "ms", core::Direction::LowerIsBetter};
  ladder.model->t0_interval = {7.8, 8.2};
  EXPECT_EQ(core::ceilingText(study, ladder), "an endless link: 8.00 ms (7.80 to 8.20)");
}

}  // namespace
