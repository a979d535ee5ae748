// Studies of more than two configurations: what they ask, in which order they are measured, and what they say.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "core/findings/contrast_rows.h"
#include "core/judgement/judgement.h"
#include "core/record/flip_guide.h"
#include "core/record/performed_flips.h"
#include "support/recorded_study.h"

namespace {

using core::configurationAt;
using core::ConfigurationId;
using core::ContrastKind;
using core::Shape;

const core::ContrastFinding& found(const core::Judgement& judged, ContrastKind kind, const std::string& to,
                                   const std::string& at = {}) {
  for (std::size_t i = 0; i < judged.shape.asked.size(); ++i) {
    const core::AskedContrast& asked = judged.shape.asked[i];
    if (asked.kind == kind && asked.to == to && asked.at == at) return *judged.shape.find(i, 0);
  }
  throw std::out_of_range(to);
}

std::set<std::string> idsOf(const core::Judgement& judged) {
  std::set<std::string> ids;
  for (const core::Doubt& doubt : judged.doubts) ids.insert(doubt.id);
  return ids;
}

TEST(RoundOrders, OfMoreThanTwoAreBalancedSquares) {
  for (const std::size_t count : {3U, 4U, 5U, 6U, 12U}) {
    const int rows = static_cast<int>(count % 2 == 0 ? count : 2 * count);
    const auto rounds = core::drawRounds(count, rows, 11);
    EXPECT_EQ(rounds, core::drawRounds(count, rows, 11));
    EXPECT_NE(rounds, core::drawRounds(count, rows, 12));
    std::map<std::pair<std::size_t, ConfigurationId>, int> in_place;
    std::map<std::pair<ConfigurationId, ConfigurationId>, int> follows;
    for (const core::RoundOrder& round : rounds) {
      ASSERT_EQ(round.size(), count);
      for (std::size_t i = 0; i < count; ++i) ++in_place[{i, round[i]}];
      for (std::size_t i = 1; i < count; ++i) ++follows[{round[i - 1], round[i]}];
    }
    // Each in each place as often as any other, and each directly after each other one as often.
    EXPECT_EQ(in_place.size(), count * count);
    EXPECT_EQ(follows.size(), count * (count - 1));
    const int times = rows / static_cast<int>(count);
    for (const auto& [key, often] : in_place) EXPECT_EQ(often, times);
    for (const auto& [key, often] : follows) EXPECT_EQ(often, times);
  }
  // No configuration is to be flipped to itself where another row is left.
  for (int seed = 0; seed < 50; ++seed) {
    const auto rounds = core::drawRounds(4, 3, seed);
    for (std::size_t i = 1; i < rounds.size(); ++i) EXPECT_NE(rounds[i].front(), rounds[i - 1].back()) << seed;
  }
}

TEST(Schedules, VisitEveryConfigurationThereAndBack) {
  core::Study study = support::ladderOf();
  study.plan.order = core::Order::ThereAndBack;
  study.plan.passes_per_level = 3;
  std::vector<std::size_t> order;
  std::map<std::size_t, int> passes;
  for (const core::PlannedVisit& visit : core::visitsOf(study)) {
    order.push_back(core::placeOf(visit.configuration));
    passes[core::placeOf(visit.configuration)] += visit.passes;
  }
  EXPECT_EQ(order, (std::vector<std::size_t>{0, 1, 2, 3, 3, 2, 1, 0}));
  for (const auto& [level, count] : passes) EXPECT_EQ(count, 3);
  study.plan.order = core::Order::Blocked;
  EXPECT_EQ(core::visitsOf(study).size(), 4U);
}

TEST(AskedContrasts, FollowTheShape) {
  const auto kinds = [](const core::Study& study) {
    std::map<std::string, int> counts;
    for (const core::AskedContrast& asked : core::contrastsOf(study)) {
      double sum = 0;
      for (const double weight : asked.weights) sum += weight;
      EXPECT_NEAR(sum, 0, 1e-12);
      ++counts[core::contrastKindName(asked.kind)];
    }
    return counts;
  };
  using Counts = std::map<std::string, int>;
  EXPECT_EQ(kinds(support::studyOf({"true"})), (Counts{{"against_baseline", 1}}));
  EXPECT_EQ(kinds(support::ladderOf()), (Counts{{"against_baseline", 3}, {"neighbour", 3}}));
  EXPECT_EQ(kinds(support::crossedOf()), (Counts{{"simple", 4}, {"main", 2}, {"interaction", 1}}));
  EXPECT_EQ(kinds(support::chainOf()), (Counts{{"step", 3}, {"total", 1}}));

  core::Study group = support::crossedOf();
  group.variables[1].is_group = true;  // cards: only the link's effect within each is asked, and whether it differs
  EXPECT_EQ(kinds(group), (Counts{{"simple", 2}, {"main", 1}, {"interaction", 1}}));

  core::Study missing = support::crossedOf();
  missing.configurations = {{"", {0, 0}}, {"", {1, 0}}, {"", {0, 1}}};
  EXPECT_EQ(kinds(missing), (Counts{{"simple", 2}}));  // no mean of simple effects, and nothing to compare them with

  core::Study downwards = support::ladderOf();
  downwards.variable().baseline = 3;
  const core::PairOf headline = core::headlinePair(downwards);
  EXPECT_EQ(downwards.nameOf(headline.from), "Gen 4");
  EXPECT_EQ(downwards.nameOf(headline.to), "Gen 1");
}

TEST(Shapes, ThatDoNotHoldTogetherAreRefusedWithTheirPlace) {
  const auto refused = [](const core::Study& study) {
    const auto problems = core::shapeProblems(study);
    return !problems.empty() && !core::problemsOf(study).empty() && !core::numbersOutOfRange(study).empty();
  };
  for (const core::Study& fine : {support::ladderOf(), support::crossedOf(), support::chainOf()})
    EXPECT_TRUE(core::problemsOf(fine).empty()) << core::problemsOf(fine).front().sentence();
  core::Study study = support::ladderOf();
  study.shape = Shape::Pair;
  EXPECT_TRUE(refused(study));
  study = support::ladderOf();
  study.variable().levels.resize(13);
  EXPECT_TRUE(refused(study));
  study = support::crossedOf();
  study.variables.push_back(study.variables[0]);
  EXPECT_TRUE(refused(study));
  study = support::crossedOf();
  study.variables[1].name = study.variables[0].name;
  EXPECT_TRUE(refused(study) || !core::problemsOf(study).empty());
  study = support::chainOf();
  study.configurations[1].levels = {7, 0};
  EXPECT_TRUE(refused(study));
  study = support::chainOf();
  study.configurations[1].levels = study.configurations[0].levels;
  EXPECT_TRUE(refused(study));
  study = support::ladderOf();
  study.variable().is_group = true;
  EXPECT_TRUE(refused(study));
  study = support::ladderOf();
  study.plan.drawn[0] = {configurationAt(0), configurationAt(0), configurationAt(1), configurationAt(2)};
  EXPECT_FALSE(core::problemsOf(study).empty());
  study = support::ladderOf();
  study.variable().levels[1].resource = 0;
  EXPECT_FALSE(core::problemsOf(study).empty());
}

TEST(Ladders, SayTheirStepsTheEnoughPointAndHowFarEachIsBound) {
  support::RecordedStudy ladder{support::ladderOf()};
  // 10 ms of its own and 20 MB over the link.
  std::vector<double> rates;
  for (const core::Level& level : ladder.study.variable().levels) rates.push_back(1000 / (10 + 20 / *level.resource));
  ladder.recordRates(rates, 0.0005);
  const core::Judgement judged = ladder.judged();
  const auto& top = found(judged, ContrastKind::AgainstBaseline, "Gen 4");
  EXPECT_NEAR(top.improvement.value, 100 * (rates[3] / rates[0] - 1), 0.2);
  EXPECT_EQ(top.verdict, core::Verdict::Gain);
  EXPECT_EQ(top.estimator, core::Estimator::Rounds);
  const core::LadderFinding& finding = *judged.shape.ladderOf(0);
  ASSERT_EQ(finding.steps.size(), 3U);
  for (std::size_t i = 0; i < 3; ++i) {
    const double elasticity =
        std::log(rates[i + 1] / rates[i]) /
        std::log(*ladder.study.variable().levels[i + 1].resource / *ladder.study.variable().levels[i].resource);
    EXPECT_NEAR(finding.steps[i].elasticity->value, elasticity, 0.005);
    EXPECT_FALSE(finding.steps[i].is_reversal);
  }
  ASSERT_TRUE(finding.model);
  EXPECT_NEAR(finding.model->t0_ms, 10, 0.05);
  EXPECT_NEAR(finding.model->mb_per_frame, 20, 0.5);
  // Gen 4 gains 6 % over Gen 3: no level below it is enough for 2 %, and Gen 3 is for 7 %.
  EXPECT_FALSE(finding.enough->enough);
  EXPECT_EQ(finding.reading, core::EnoughReading::NoLowerLevel);
  EXPECT_TRUE(judged.claim.sentence().starts_with(
      "On Dome node 3, moving the graphics link through Gen 1 to Gen 4 changes average FPS over Ring pass, 4K dome: "
      "no level below Gen 4 is enough; Gen 4 over Gen 1 +"));
  ladder.study.notice_threshold_percent = 7;
  EXPECT_EQ(ladder.judged().shape.ladderOf(0)->enough->enough, 2U);
  // So is a millisecond of the 15 that a frame lasts at Gen 1.
  ladder.study.notice_threshold_percent = 2;
  ladder.study.notice_threshold_ms = 1;
  EXPECT_TRUE(core::enoughText(ladder.study, ladder.judged().shape, 0)
                  .starts_with("Gen 3 is enough: no measured level above it brings 1 ms per frame, here 7.1"));
  // Each family is adjusted by itself, and the pair's own finding is the same number.
  EXPECT_NEAR(judged.findings.cases[0].improvement.value, top.improvement.value, 1e-9);
  EXPECT_NEAR(judged.findings.cases[0].effect->contrast.inference->p, top.contrast.inference->p, 1e-12);
}

TEST(Ladders, TellAContrastThatLuckAmongManyCouldHaveMadeAsOneOfSoManyContrasts) {
  support::RecordedStudy ladder{support::ladderOf()};
  const core::ContrastFinding* marked = nullptr;
  core::Judgement judged;
  for (double spread = 0.001; !marked && spread < 0.02; spread *= 1.05) {
    ladder.recordRates({60, 60.3, 60.1, 60}, spread);
    judged = ladder.judged();
    for (const core::ContrastFinding& one : judged.shape.contrasts)
      if (one.marks.not_after_adjustment_for && one.verdict != core::Verdict::NoDifferenceThatMatters) marked = &one;
  }
  ASSERT_TRUE(marked);
  EXPECT_LT(marked->contrast.inference->p, 0.05);
  EXPECT_FALSE(*core::doesHold(marked->verdict, *marked->p_holm, 0.05));
  EXPECT_EQ(marked->marks.names(), std::vector<std::string>{"not after adjustment for 3 contrasts"});
  EXPECT_EQ(marked->marks.words(), std::vector<std::string>{"does not survive the adjustment for 3 contrasts"});
}

TEST(Ladders, SayWhereWhatALevelOffersIsNotKnown) {
  support::RecordedStudy recorded{support::ladderOf()};
  recorded.recordRates({60, 80, 95, 100});
  EXPECT_FALSE(idsOf(recorded.judged()).contains("no_resource"));
  recorded.study.variables[0].levels[2].resource.reset();
  const core::Judgement judged = recorded.judged();
  EXPECT_TRUE(idsOf(judged).contains("no_resource"));
  const auto named = std::find_if(judged.doubts.begin(), judged.doubts.end(),
                                  [](const core::Doubt& one) { return one.id == "no_resource"; });
  EXPECT_NE(named->sentence.find("What Gen 3 offers is not known"), std::string::npos);
}

TEST(Ladders, NameAStrongerLevelThatIsSlowerUnlessBothOfferTheSame) {
  support::RecordedStudy ladder{support::ladderOf()};
  ladder.recordRates({60, 70, 65, 71});
  EXPECT_TRUE(idsOf(ladder.judged()).contains("reversal/Gen 2 to Gen 3/Ring pass, 4K dome"));
  ladder.study.variable().levels[2].resource = 7.9;
  EXPECT_FALSE(idsOf(ladder.judged()).contains("reversal/Gen 2 to Gen 3/Ring pass, 4K dome"));
}

TEST(Ladders, GoOnWithoutALevelThatCannotBeReachedAndForetellIt) {
  support::RecordedStudy ladder{support::ladderOf()};
  ladder.record([](core::Pass& pass, const core::Slot& slot) {
    const double rate = std::vector{3.94, 7.88, 15.75, 31.5}[core::placeOf(slot.configuration)];
    if (slot.configuration != configurationAt(3)) pass.value = 1000 / (10 + 20 / rate) * (1 + 1e-4 * (slot.visit % 3));
  });
  std::erase_if(ladder.passes, [](const core::Pass& pass) { return !pass.value; });
  EXPECT_FALSE(ladder.findings().done.is_first_done);
  ladder.also.unreachable = {{configurationAt(3), "it does not start"}};
  const core::Judgement judged = ladder.judged();
  EXPECT_TRUE(judged.findings.done.is_first_done);
  ASSERT_EQ(judged.shape.missing.size(), 1U);
  EXPECT_EQ(judged.shape.missing[0].name, "Gen 4");
  EXPECT_EQ(judged.shape.missing[0].reason, "not reachable: it does not start");
  EXPECT_TRUE(idsOf(judged).contains("missing/Gen 4"));
  const core::LadderFinding& finding = *judged.shape.ladderOf(0);
  EXPECT_EQ(finding.order.back(), 2U);  // of those that were reached
  EXPECT_EQ(finding.unmeasured, std::vector{configurationAt(3)});
  ASSERT_NE(judged.shape.valuesOf(0), nullptr);
  EXPECT_FALSE(judged.shape.valuesOf(0)->at[3].improvement) << "nothing is known of the one that was not";
  EXPECT_TRUE(judged.shape.valuesOf(0)->at[2].improvement);
  ASSERT_EQ(finding.foretold.size(), 1U);
  EXPECT_EQ(finding.foretold[0].level, configurationAt(3));
  EXPECT_NEAR(finding.foretold[0].value, 1000 / (10 + 20 / 31.5), 0.1);
}

TEST(Crossings, SayWhatOneDoesAtEachLevelOfTheOtherAndWhetherThatDiffers) {
  support::RecordedStudy crossed{support::crossedOf()};
  // Gen 3 off, Gen 3 on, Gen 4 off, Gen 4 on: the feature gives 2 % at Gen 3 and 9.2 % at Gen 4.
  crossed.recordRates({50, 51, 60, 65.5}, 0.0005);
  const core::Judgement judged = crossed.judged();
  EXPECT_NEAR(found(judged, ContrastKind::Simple, "Gen 4", "off").improvement.value, 20, 0.2);
  EXPECT_NEAR(found(judged, ContrastKind::Simple, "on", "Gen 4").improvement.value, 100 * (65.5 / 60 - 1), 0.2);
  EXPECT_NEAR(found(judged, ContrastKind::Main, "on").contrast.difference,
              (std::log(51.0 / 50) + std::log(65.5 / 60)) / 2, 0.001);
  const auto& interaction = found(judged, ContrastKind::Interaction, "Gen 4", "on");
  EXPECT_NEAR(interaction.contrast.difference, std::log(65.5 / 60) - std::log(51.0 / 50), 0.001);
  EXPECT_EQ(interaction.verdict, core::Verdict::Gain);
  EXPECT_TRUE(judged.claim.sentence().ends_with("with it on: the gain is larger at on: +28.4 % there, +20.0 % at off"))
      << judged.claim.sentence();
  EXPECT_EQ(judged.pair_study.nameOf(core::ConfigurationId::Changed), "Gen 4, off");
}

// The claim is one sentence: of many levels of the other variable it tells the first three.
TEST(Crossings, TellAtMostThreeLevelsInTheClaim) {
  support::RecordedStudy crossed{support::crossedOf()};
  auto& levels = crossed.study.variables[1].levels;
  levels.resize(5);
  for (std::size_t i = 2; i < 5; ++i) levels[i].name = "mode " + std::to_string(i);
  crossed.study.plan.drawn = core::drawRounds(10, 5, 1);
  ASSERT_TRUE(core::problemsOf(crossed.study).empty());
  crossed.record([](core::Pass& pass, const core::Slot& slot) {
    const std::size_t place = core::placeOf(slot.configuration);
    pass.value = 60 * (1 + 0.1 * static_cast<double>(place / 5)) * (1 + 1e-4 * ((slot.visit + slot.number) % 5));
  });
  const std::string outcome = crossed.judged().claim.outcome;
  EXPECT_NE(outcome.find(" with it mode 2"), std::string::npos) << outcome;
  EXPECT_EQ(outcome.find(" with it mode 3"), std::string::npos) << outcome;
  EXPECT_NE(outcome.find(", and at 2 more"), std::string::npos) << outcome;
}

TEST(Crossings, NameTheCellsThatNobodyMeasures) {
  support::RecordedStudy crossed{support::crossedOf()};
  crossed.study.configurations = {{"", {0, 0}}, {"", {1, 0}}, {"", {0, 1}}};
  crossed.study.plan.drawn = core::drawRounds(3, 5, 1);
  crossed.recordRates({50, 60, 51});
  const core::Judgement judged = crossed.judged();
  ASSERT_EQ(judged.shape.missing.size(), 1U);
  EXPECT_EQ(judged.shape.missing[0].name, "Gen 4, on");
  EXPECT_NEAR(found(judged, ContrastKind::Simple, "Gen 4", "off").improvement.value, 20, 0.5);
}

TEST(Chains, AccountForTheWholeLoss) {
  support::RecordedStudy chain{support::chainOf()};
  chain.recordRates({100, 94, 80, 76}, 0.0005);
  const core::Judgement judged = chain.judged();
  const core::ChainFinding& finding = *judged.shape.chainOf(0);
  EXPECT_NEAR(finding.total.value, -24, 0.3);
  double sum = 0;
  for (const core::LossStep& step : finding.chain.steps) {
    sum += step.share;
    EXPECT_TRUE(step.interval);
  }
  EXPECT_NEAR(sum, 1, 1e-9);
  EXPECT_NEAR(finding.chain.steps[1].share, std::log(80.0 / 94) / std::log(0.76), 0.01);
  EXPECT_TRUE(judged.claim.sentence().starts_with(
      "On Dome node 3, going from full-width slot in steps to box, own screen changes average FPS over Ring pass, 4K "
      "dome by −"))
      << judged.claim.sentence();
  EXPECT_NE(judged.claim.sentence().find("% of it in the step to “external box”: loss"), std::string::npos);
  EXPECT_FALSE(idsOf(judged).contains("double_step/full-width slot to external box"));
}

TEST(Chains, StopAtAStepThatMovesTwoVariables) {
  support::RecordedStudy chain{support::chainOf()};
  chain.study.configurations.erase(chain.study.configurations.begin() + 1);
  chain.study.plan.drawn = core::drawRounds(3, 5, 1);
  chain.recordRates({100, 80, 76});
  const core::Judgement judged = chain.judged();
  ASSERT_FALSE(judged.doubts.empty());
  EXPECT_EQ(judged.doubts.front().id, "double_step/full-width slot to external box");
  EXPECT_EQ(judged.doubts.front().rank, core::DoubtRank::Stop);
  EXPECT_TRUE(judged.claim.is_stopped);
}

TEST(Suites, OfALadderAreSummedUpContrastByContrast) {
  support::RecordedStudy ladder{support::ladderOf()};
  ladder.study.cases.push_back(ladder.study.cases[0]);
  ladder.study.cases[1].preset = "8K dome";
  ladder.record([](core::Pass& pass, const core::Slot& slot) {
    const double gain =
        1 + (slot.case_index == 0 ? 0.02 : 0.06) * static_cast<double>(core::placeOf(slot.configuration));
    pass.value = 60 * gain * (1 + 1e-4 * ((slot.visit + slot.number) % 5));
  });
  const core::Judgement judged = ladder.judged();
  EXPECT_EQ(judged.shape.suite_cases.size(), 2U);
  EXPECT_EQ(judged.claim.cases, "2 cases");
  EXPECT_FALSE(judged.shape.headlineCase());
  support::RecordedStudy with_control = ladder;
  with_control.study.cases.push_back(ladder.study.cases[0]);
  with_control.study.cases[2].preset = "2K dome";
  with_control.study.cases[2].is_control = true;
  with_control.record([](core::Pass& pass, const core::Slot& slot) { pass.value = 60 + 0.01 * (slot.visit % 3); });
  EXPECT_EQ(with_control.judged().claim.cases, "2 of 3 cases");
  const core::ContrastFinding* suite = judged.shape.find(2, std::nullopt);
  const double expected = 100 * (std::exp((std::log(1.06) + std::log(1.18)) / 2) - 1);
  EXPECT_NEAR(suite->improvement.value, expected, 0.05);
  EXPECT_EQ(judged.shape.ladderOf(std::nullopt)->steps.size(), 3U);
}

TEST(Rows, OfContrastsAreTheSameEverywhere) {
  support::RecordedStudy ladder{support::ladderOf()};
  ladder.recordRates({60, 70, 75, 76});
  const core::Judgement judged = ladder.judged();
  const auto sections = core::contrastSections(ladder.study, judged.shape, 0);
  ASSERT_EQ(sections.size(), 2U);
  EXPECT_EQ(sections[0].heading, "Step by step");
  EXPECT_EQ(sections[1].heading, "Against Gen 1");
  EXPECT_EQ(sections[0].rows[0].title, "Gen 1 to Gen 2");
  EXPECT_TRUE(sections[0].rows[0].remark.starts_with("×2.00, 22 % of it"));
  EXPECT_TRUE(core::contrastSections(support::studyOf({"true"}), {}, 0).empty());
}

TEST(MissedFlips, OfCrossedVariablesAreThoseOfTheOneThatNeedsARestart) {
  core::Study study = support::crossedOf();
  study.variables[0].kind = "graphics_carve_out";  // needs a restart
  study.variables[1].kind = "governor";            // does not
  ASSERT_TRUE(core::doesFlipRestart(study.variables[0]));
  ASSERT_FALSE(core::doesFlipRestart(study.variables[1]));
  const auto missed = [&](const std::vector<std::pair<std::size_t, std::string>>& visited) {
    std::vector<core::Visit> visits;
    for (const auto& [place, boot] : visited)
      visits.push_back({static_cast<std::int64_t>(visits.size()) + 1, static_cast<int>(visits.size()) + 1, 1,
                        configurationAt(place), boot, 0});
    return core::missedFlips(study, visits);
  };
  EXPECT_TRUE(missed({{0, "a"}, {1, "a"}, {3, "b"}, {2, "b"}}).empty());  // the governor moves within a boot
  ASSERT_EQ(missed({{0, "a"}, {2, "a"}}).size(), 1U);                     // the other cannot
  EXPECT_FALSE(missed({{0, "a"}, {2, "a"}})[0].is_same_level);
  ASSERT_EQ(missed({{0, "a"}, {0, "a"}}).size(), 1U);
  EXPECT_TRUE(missed({{0, "a"}, {0, "a"}})[0].is_same_level);
  EXPECT_TRUE(missed({{0, "a"}, {1, "a"}, {0, "a"}}).empty());  // it was left in between
}

TEST(FlipGuides, NameTheVariablesThatMove) {
  core::Study study = support::crossedOf();
  study.variables[0].kind = "pcie_generation";
  study.variables[1].kind = "resizable_bar";
  const core::Visit before{1, 1, 1, configurationAt(0), "boot", 0};
  const auto has = [](const core::FlipGuide& guide, const std::string& step) {
    return std::find(guide.steps.begin(), guide.steps.end(), step) != guide.steps.end();
  };
  const core::FlipGuide one = core::flipGuide(study, configurationAt(1), before);
  EXPECT_TRUE(has(one, "large aperture: on."));
  EXPECT_FALSE(has(one, "graphics link: Gen 3."));
  const core::FlipGuide both = core::flipGuide(study, configurationAt(3), std::nullopt);
  EXPECT_TRUE(has(both, "large aperture: on."));
  EXPECT_TRUE(has(both, "graphics link: Gen 4."));
  EXPECT_TRUE(core::isFlippedByHand(study, configurationAt(1), before));
}

}  // namespace
