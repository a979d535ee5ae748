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

/// What a crossing's interaction says of four rates: Gen 3 off, Gen 3 on, Gen 4 off, Gen 4 on.
std::string interactionOf(const std::vector<double>& rates, double spread = kSpread) {
  support::RecordedStudy crossed{support::crossedOf()};
  crossed.recordRates(rates, spread);
  const core::ShapeFindings found = crossed.judged().shape;
  for (std::size_t i = 0; i < found.asked.size(); ++i)
    if (found.asked[i].kind == core::ContrastKind::Interaction) return core::interactionText(found, i, 0);
  return {};
}

TEST(InteractionWords, SayBySizeWhatDependsOnWhat) {
  EXPECT_EQ(interactionOf({50, 50, 60, 65}).substr(0, 26), "the gain is larger at on: ");
  EXPECT_EQ(interactionOf({50, 50, 65, 60}).substr(0, 27), "the gain is smaller at on: ");
  // Two losses: the interaction is positive where the loss is the smaller one.
  const std::string smaller = interactionOf({50, 50, 40, 45});
  EXPECT_TRUE(smaller.starts_with("the loss is smaller at on: −10.0 % there, −20.0 % at off")) << smaller;
  const std::string larger = interactionOf({50, 50, 45, 40});
  EXPECT_TRUE(larger.starts_with("the loss is larger at on: −20.0 % there, −10.0 % at off")) << larger;
  // Where one gains and the other loses neither word would be true.
  const std::string turned = interactionOf({50, 50, 45, 55});
  EXPECT_TRUE(turned.starts_with("the effect is better at on: +10.0 % there, −10.0 % at off")) << turned;
  EXPECT_TRUE(interactionOf({50, 50, 60, 60}).starts_with("the gain is the same at on, as far as it matters: "));
  EXPECT_TRUE(interactionOf({50, 50, 50, 51}, 0.05).starts_with("whether the effect differs at on is not settled"));
}

TEST(InteractionWords, AreNeverTakenForASimpleEffect) {
  for (const core::AskedContrast& asked : core::contrastsOf(support::crossedOf())) {
    if (asked.kind == core::ContrastKind::Interaction) {
      EXPECT_EQ(core::contrastName(asked), "Gen 3 to Gen 4, on against off");
    }
  }
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
  EXPECT_EQ(
      headings(sections),
      (std::vector<std::string>{"What the graphics link does at each level of the large aperture",
                                "What the large aperture does at each level of the graphics link",
                                "Does the effect of the graphics link depend on the large aperture?",
                                "What the graphics link does on average", "What the large aperture does on average"}));
  ASSERT_EQ(sections[0].rows.size(), 2U);
  EXPECT_EQ(sections[0].rows[0].title, "Gen 3 to Gen 4, at off");
  EXPECT_EQ(sections[0].rows[1].title, "Gen 3 to Gen 4, at on");
  EXPECT_TRUE(sections[0].rows[1].change.starts_with("+28.4 % (")) << sections[0].rows[1].change;
  EXPECT_EQ(sections[0].rows[1].verdict, "gain");
  EXPECT_TRUE(sections[0].rows[1].is_counted);
  EXPECT_EQ(sections[2].rows[0].verdict, "the gain is larger at on: +28.4 % there, +20.0 % at off");
}

TEST(RowsOfAChain, SayWhichPartOfTheLossEachStepIs) {
  support::RecordedStudy chain{support::chainOf()};
  chain.recordRates({100, 94, 80, 76}, kSpread);
  core::Judgement judged = chain.judged();
  auto sections = core::contrastSections(chain.study, judged.shape, 0);
  EXPECT_EQ(headings(sections), (std::vector<std::string>{"Where the change comes from", "The whole chain"}));
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
  std::erase_if(ladder.passes,
                [&](const core::Pass& pass) { return core::placeOf(schedule[pass.slot].configuration) == 3; });
  ladder.also.unreachable = {{core::configurationAt(3), "it does not start"}};
  const core::Judgement judged = ladder.judged();
  const auto sections = core::contrastSections(ladder.study, judged.shape, 0);
  EXPECT_EQ(sections[0].rows.back().title, "Gen 3 to Gen 4");
  EXPECT_EQ(sections[0].rows.back().verdict, "not measured at every level that it needs");
  EXPECT_FALSE(sections[0].rows.back().percent);
  EXPECT_FALSE(sections[0].rows.back().is_counted);
}

TEST(RowsOfDecibels, StandInTheirUnit) {
  support::RecordedStudy ladder{support::ladderOf()};
  ladder.study.cases[0].source = core::ResultSource::JsonField;
  ladder.study.cases[0].metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 1};
  ladder.record([](core::Pass& pass, const core::Slot& slot) {
    pass.value = 40 - 3.0 * static_cast<double>(core::placeOf(slot.configuration)) + 0.1 * (slot.visit % 3);
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
    if (core::scheduleOf(ladder.study)[pass.slot].configuration == core::configurationAt(0)) {
      sum += *pass.value;
      ++passes;
    }
  EXPECT_NEAR(*judged.shape.valuesOf(0)->at[0].mean, sum / passes, 1e-9) << "differences have a plain mean";
}

TEST(EnoughWords, SayTheLevelNoneOrWhyNot) {
  support::RecordedStudy ladder{support::ladderOf()};
  const auto text = [&] { return core::enoughText(ladder.study, ladder.judged().shape, 0); };
  EXPECT_EQ(text(), "Which level is enough cannot be said: a level has no interval");
  ladder.recordRates({60, 80, 99.9, 100}, kSpread);
  EXPECT_EQ(
      text(),
      "Gen 3 is enough: no measured level above it brings 2 % or more. This rule is cautious: a lower level may be "
      "enough too");
  ladder.passes.pop_back();  // one is still to come
  EXPECT_TRUE(text().starts_with("Gen 3 is enough, provisionally: no measured level")) << text();
  EXPECT_NE(ladder.judged().claim.sentence().find(": Gen 3 is enough, provisionally; Gen 4 over"), std::string::npos)
      << ladder.judged().claim.sentence();
  ladder.recordRates({60, 80, 95, 90}, kSpread);  // the strongest is surely not the best
  EXPECT_TRUE(text().starts_with("No level is enough: even Gen 4 falls short of the best by 2 % or more")) << text();
  ladder.recordRates({60, 100, 90, 100}, kSpread);  // one below would do, and the one between would not
  EXPECT_NE(text().find("Gen 2 alone would pass, a level above it does not"), std::string::npos) << text();
  EXPECT_EQ(core::enoughText(support::chainOf(), {}, 0), "");
}

// Enough is a statement about the levels above: of the highest that was measured nobody knows it.
TEST(EnoughWords, NeverCallTheHighestMeasuredLevelEnough) {
  support::RecordedStudy ladder{support::ladderOf()};
  const auto text = [&] { return core::enoughText(ladder.study, ladder.judged().shape, 0); };
  ladder.recordRates({60, 70, 80, 90}, kSpread);
  EXPECT_TRUE(
      text().starts_with("No level below Gen 4 is enough; whether Gen 4 is, nobody has measured: no level above it "
                         "has a result. The step to it brought +12.5 %, bound by the graphics link by 17 %"))
      << text();
  EXPECT_FALSE(ladder.judged().shape.ladderOf(0)->enough->enough);
  EXPECT_NE(ladder.judged().claim.sentence().find(": no level below Gen 4 is enough; Gen 4 over"), std::string::npos);
  // A level that was not reached is named, and nothing is said of it.
  ladder.record([](core::Pass& pass, const core::Slot& slot) {
    if (slot.configuration != core::configurationAt(3))
      pass.value = (60 + 10.0 * static_cast<double>(core::placeOf(slot.configuration))) * (1 + 1e-4 * (slot.visit % 3));
  });
  std::erase_if(ladder.passes, [](const core::Pass& pass) { return !pass.value; });
  ladder.also.unreachable = {{core::configurationAt(3), "it does not start"}};
  EXPECT_TRUE(text().starts_with("No level below Gen 3 is enough; ")) << text();
  EXPECT_NE(text().find(". Not measured: Gen 4"), std::string::npos) << text();
  const core::Claim claim = ladder.judged().claim;
  EXPECT_NE(claim.sentence().find("Gen 3 over Gen 1 +33.3 %"), std::string::npos) << claim.sentence();
  EXPECT_TRUE(claim.sentence().ends_with("; without a result: Gen 4")) << claim.sentence();
}

// A level whose place among the best is open proves nothing: not that it is enough, nor that none is.
TEST(EnoughWords, AreNotSettledWithoutProof) {
  support::RecordedStudy ladder{support::ladderOf(3, 1)};
  ladder.recordRates({60, 80, 100, 99}, 0.03);
  EXPECT_EQ(ladder.judged().shape.ladderOf(0)->reading, core::EnoughReading::Open);
  EXPECT_TRUE(
      core::enoughText(ladder.study, ladder.judged().shape, 0).starts_with("Not settled which level is enough"));
  ladder.recordRates({99, 100, 99.5, 100}, 0.03);  // the lower ones may do: that they do not is not shown
  const core::ShapeFindings found = ladder.judged().shape;
  const core::LadderFinding& reading = *found.ladderOf(0);
  if (reading.reading == core::EnoughReading::NoLowerLevel) {
    EXPECT_TRUE(core::enoughText(ladder.study, found, 0).starts_with("No level below Gen 4 is shown to be enough"));
  }
}

TEST(EnoughWords, OfASuiteCountTheCasesThatStillGain) {
  support::RecordedStudy ladder{support::ladderOf()};
  ladder.study.cases.push_back(ladder.study.cases[0]);
  ladder.study.cases[1].preset = "8K dome";
  ladder.record([](core::Pass& pass, const core::Slot& slot) {
    const std::vector<double> rates =
        slot.case_index == 0 ? std::vector{60.0, 80.0, 100.0, 103.0} : std::vector{60.0, 80.0, 100.0, 99.5};
    pass.value = rates[core::placeOf(slot.configuration)] * (1 + 1e-4 * ((slot.visit + slot.number) % 5));
  });
  const core::Judgement judged = ladder.judged();
  EXPECT_TRUE(core::enoughText(ladder.study, judged.shape, std::nullopt)
                  .starts_with("Gen 3 is enough: no measured level above it brings 2 % or more; yet 1 of 2 cases still "
                               "gains above it"))
      << core::enoughText(ladder.study, judged.shape, std::nullopt);
  EXPECT_NE(judged.claim.sentence().find("Gen 3 is enough (1 of 2 cases still gains above it); Gen 4 over Gen 1"),
            std::string::npos)
      << judged.claim.sentence();
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
  EXPECT_EQ(core::ceilingText(study, ladder), "With an unlimited link the transfer model expects 125.0 FPS");
  ladder.model->t0_interval = {7.8125, 8.0645};
  EXPECT_EQ(core::ceilingText(study, ladder),
            "With an unlimited link the transfer model expects 125.0 FPS (124.0 to 128.0)");
  ladder.model->t0_interval = {-1, 8.1};  // no ceiling is sure
  EXPECT_EQ(core::ceilingText(study, ladder), "With an unlimited link the transfer model expects 125.0 FPS");
  study.cases[0].metric = {"mean frame time", "ms", core::Direction::LowerIsBetter};
  ladder.model->t0_interval = {7.8, 8.2};
  EXPECT_EQ(core::ceilingText(study, ladder),
            "With an unlimited link the transfer model expects 8.00 ms (7.80 to 8.20)");
}

}  // namespace
