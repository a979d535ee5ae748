// What bounded a pass, the suite read several ways, second opinions, and the doubts that numbers raise.
#include <gtest/gtest.h>

#include "core/estimate/second_opinion.h"
#include "core/findings/bound.h"
#include "core/findings/findings.h"
#include "core/findings/result_row.h"
#include "core/judgement/claim.h"
#include "core/judgement/finding_doubts.h"
#include "core/study/schedule.h"
#include "support/recorded_study.h"

namespace {

using core::Bound;
using core::ChannelRole;
using core::ConfigurationId;

core::Pass sampled(double graphics, double core) {
  core::Pass pass;
  pass.samples = {
      {"graphics load", "%", ChannelRole::Load, "0000:03:00.0", graphics, graphics, graphics, graphics, graphics},
      {"busiest core", "%", ChannelRole::Load, "processor", core, core, core, core, core}};
  return pass;
}

Bound boundOf(const core::Pass& pass, std::optional<double> best_power = {}) {
  const std::vector<core::CountedPass> one{{&pass, nullptr}};
  return core::boundOf(one, best_power).bound;
}

TEST(Bounds, FollowTheEvidence) {
  EXPECT_EQ(boundOf(core::Pass()), Bound::NotKnown);
  EXPECT_EQ(boundOf(sampled(97, 60)), Bound::Graphics);
  EXPECT_EQ(boundOf(sampled(70, 95)), Bound::Processor);
  EXPECT_EQ(boundOf(sampled(70, 60)), Bound::Undecided);
  core::Pass starved = sampled(70, 60);
  starved.samples.push_back({"board", "W", ChannelRole::Power, "hwmon2", 100, 100, 100, 100, 100});
  EXPECT_EQ(boundOf(starved, 200), Bound::LinkSuspected);
  EXPECT_EQ(boundOf(starved, 110), Bound::Undecided);
  core::Pass throttled = sampled(97, 60);
  throttled.throttled = 2;
  EXPECT_EQ(boundOf(throttled), Bound::PowerOrHeat);
  core::Pass hot = sampled(97, 60);
  hot.samples.push_back({"graphics clock", "MHz", ChannelRole::Clock, "0000:03:00.0", 1800, 1900, 2000, 2000, 1800});
  EXPECT_EQ(boundOf(hot), Bound::Graphics);  // a clock that falls alone may be an idle one
  hot.samples.push_back({"edge", "°C", ChannelRole::Temperature, "hwmon2", 60, 70, 80, 60, 80});
  EXPECT_EQ(boundOf(hot), Bound::PowerOrHeat);
  core::Pass full = sampled(80, 60);
  full.samples.push_back({"graphics memory in use", "MiB", ChannelRole::Memory, "0000:03:00.0", 8000, 8100, 8190, 8000,
                          8190, 8100, 0, 8192});
  EXPECT_EQ(boundOf(full), Bound::GraphicsMemory);
  core::Pass capped = sampled(60, 60);
  capped.frames = core::FrameSummary{};
  capped.frames->capped_fps = 60;
  EXPECT_EQ(boundOf(capped), Bound::Capped);
  // One thread works all the time, from core to core: no core is busy, and yet it bounds.
  core::Pass one_thread = sampled(70, 60);
  one_thread.frames = core::FrameSummary{};
  one_thread.frames->average_fps = 100;
  one_thread.samples.push_back({core::kThreadTime, "ms", ChannelRole::Frame, "frames", 8, 9.5, 11, 9.5, 9.5});
  EXPECT_EQ(boundOf(one_thread), Bound::Processor);
  const std::vector<core::CountedPass> one{{&one_thread, nullptr}};
  EXPECT_NE(core::boundOf(one, {}).evidence.find("its thread works 95 % of a frame"), std::string::npos);
  one_thread.samples.back().median = 5;
  EXPECT_EQ(boundOf(one_thread), Bound::Undecided);
  one_thread.samples.push_back({core::kDeviceTime, "ms", ChannelRole::Frame, "frames", 8, 9.5, 11, 9.5, 9.5});
  EXPECT_EQ(boundOf(one_thread), Bound::Graphics);
}

// Each rule of thumb at its edge, and on the other side of it.
TEST(Bounds, BeginAtTheirEdges) {
  EXPECT_EQ(boundOf(sampled(95, 60)), Bound::Graphics);
  EXPECT_EQ(boundOf(sampled(94.9, 60)), Bound::Undecided);
  EXPECT_EQ(boundOf(sampled(50, 90)), Bound::Processor);
  EXPECT_EQ(boundOf(sampled(50, 89.9)), Bound::Undecided);
  const auto with = [](core::Pass pass, core::ChannelSummary channel) {
    pass.samples.push_back(std::move(channel));
    return pass;
  };
  const auto memory = [](double used, const char* part = "0000:03:00.0") {
    return core::ChannelSummary{
        "graphics memory in use", "MiB", ChannelRole::Memory, part, used, used, used, used, used, used, 0, 1000};
  };
  EXPECT_EQ(boundOf(with(sampled(80, 60), memory(970))), Bound::GraphicsMemory);
  EXPECT_EQ(boundOf(with(sampled(80, 60), memory(969))), Bound::Undecided);
  EXPECT_EQ(boundOf(with(sampled(80, 60), memory(999, "0000:04:00.0"))), Bound::Undecided) << "another device's";
  const auto board = [](double watts) {
    return core::ChannelSummary{"board", "W", ChannelRole::Power, "hwmon2", watts, watts, watts, watts, watts};
  };
  EXPECT_EQ(boundOf(with(sampled(89.9, 60), board(79.9)), 100), Bound::LinkSuspected);
  EXPECT_EQ(boundOf(with(sampled(89.9, 60), board(80)), 100), Bound::Undecided);
  EXPECT_EQ(boundOf(with(sampled(90, 60), board(50)), 100), Bound::Undecided);
  EXPECT_EQ(boundOf(with(sampled(89.9, 60), board(50))), Bound::Undecided) << "nobody knows its best";
  const auto warming = [&](double clock_at_end, double degrees_at_end) {
    core::Pass pass = sampled(50, 50);
    pass.samples.push_back({"graphics clock", "MHz", ChannelRole::Clock, "d", 0, 0, 0, 2000, clock_at_end});
    pass.samples.push_back({"edge", "°C", ChannelRole::Temperature, "hwmon2", 0, 0, 0, 60, degrees_at_end});
    return boundOf(pass);
  };
  EXPECT_EQ(warming(1899, 61), Bound::PowerOrHeat);
  EXPECT_EQ(warming(1900, 61), Bound::Undecided) << "five percent are no fall";
  EXPECT_EQ(warming(1899, 60), Bound::Undecided) << "nothing got warmer";
  core::Pass work = sampled(50, 50);
  work.frames = core::FrameSummary{};
  work.frames->average_fps = 100;
  const auto channel = [](const char* name, double ms) {
    return core::ChannelSummary{name, "ms", ChannelRole::Frame, "frames", ms, ms, ms, ms, ms};
  };
  EXPECT_EQ(boundOf(with(work, channel(core::kThreadTime, 9))), Bound::Processor);
  EXPECT_EQ(boundOf(with(work, channel(core::kThreadTime, 8.9))), Bound::Undecided);
  EXPECT_EQ(boundOf(with(work, channel(core::kDeviceTime, 9))), Bound::Graphics);
  EXPECT_EQ(boundOf(with(work, channel(core::kDeviceTime, 8.9))), Bound::Undecided);
  core::Pass limited = sampled(99, 50);
  limited.throttled = 0;
  EXPECT_EQ(boundOf(limited), Bound::Graphics);
}

TEST(Bounds, OfACaseAreThoseOfMostOfItsPassesWithTheirNumbers) {
  const core::Pass graphics = sampled(98, 50);
  const core::Pass processor = sampled(60, 96);
  const std::vector<core::CountedPass> passes{{&graphics, nullptr}, {&processor, nullptr}, {&graphics, nullptr}};
  const core::BoundFinding found = core::boundOf(passes, {});
  EXPECT_EQ(found.bound, Bound::Graphics);
  EXPECT_EQ(found.evidence, "graphics 98 % busy, busiest core 50 %");
  EXPECT_EQ(core::boundOf({}, {}).bound, Bound::NotKnown);
  EXPECT_FALSE(core::graphicsPower(passes));
}

TEST(Bounds, KnowEveryUsualCap) {
  for (const double rate : {24.0, 25.0, 30.0, 48.0, 50.0, 60.0, 72.0, 75.0, 90.0, 100.0, 120.0, 144.0, 165.0, 240.0}) {
    EXPECT_EQ(core::cappedAt(std::vector<double>(10, 1000 / rate), 1000 / rate), rate);
    EXPECT_EQ(core::cappedAt(std::vector<double>(10, 1009 / rate), 1009 / rate), rate) << "within a hundredth";
    EXPECT_EQ(core::cappedAt(std::vector<double>(10, 1011 / rate), 1011 / rate), 0);
  }
  EXPECT_EQ(core::cappedAt(std::vector<double>(10, 1000 / 480.0), 1000 / 480.0), 0) << "480 is none";
}

TEST(Bounds, FindTheRateThatMostFramesKeep) {
  const auto capped = [](const std::vector<double>& frame_ms) {
    return core::cappedAt(frame_ms, core::frameMetrics(frame_ms, {})->median_frame_ms);
  };
  std::vector<double> frames(100, 16.7);
  EXPECT_EQ(capped(frames), 60);
  std::fill(frames.begin(), frames.begin() + 40, 12.0);
  EXPECT_EQ(capped(frames), 60);  // 60 of 100 are most
  frames[40] = 12.0;
  EXPECT_EQ(capped(frames), 0);
  EXPECT_EQ(capped(std::vector<double>(10, 6.9)), 144);
  EXPECT_EQ(capped(std::vector<double>(10, 1.0)), 0);
}

TEST(Bounds, KeepACaseFromShowingWhatActsElsewhere) {
  const auto both = [](Bound bound) { return std::array<core::BoundFinding, 2>{{{bound, ""}, {bound, ""}}}; };
  EXPECT_TRUE(core::isBoundElsewhere(both(Bound::Graphics), core::ActsOn::Processor));
  EXPECT_FALSE(core::isBoundElsewhere(both(Bound::Graphics), core::ActsOn::Link));
  EXPECT_TRUE(core::isBoundElsewhere(both(Bound::Processor), core::ActsOn::Graphics));
  EXPECT_TRUE(core::isBoundElsewhere(both(Bound::Capped), core::ActsOn::Anything));
  EXPECT_FALSE(core::isBoundElsewhere({{{Bound::Graphics, ""}, {Bound::Processor, ""}}}, core::ActsOn::Processor));
}

/// A study of rounds whose cases change by set factors, with a little spread.
class Readings : public testing::Test {
 protected:
  Readings() {
    study_ = support::roundsOf(6, 2);
    study_.variable().kind = "memory_speed";
    study_.cases.clear();
  }
  void add(const std::string& workload, const std::string& preset, double factor, bool is_synthetic = false) {
    core::Case one = support::studyOf({"w", "{log}"}, 2).cases[0];
    one.workload = workload;
    one.preset = preset;
    one.is_synthetic = is_synthetic;
    study_.cases.push_back(one);
    factors_.push_back(factor);
  }
  core::Findings found() {
    recorded_.record([this](core::Pass& pass, const core::Slot& slot) {
      if (passes_of_ == Bound::Graphics) pass.samples = sampled(98, 50).samples;
      const std::size_t i = pass.slot;
      const double noise = 1 + 0.001 * static_cast<double>((7 * i + 3 * i * i) % 11);
      pass.value = 100 * noise * (slot.configuration == ConfigurationId::Changed ? factors_[slot.case_index] : 1);
    });
    return recorded_.findings();
  }
  static bool has(const std::vector<core::Doubt>& doubts, const std::string& start) {
    return std::any_of(doubts.begin(), doubts.end(), [&](const core::Doubt& one) { return one.id.starts_with(start); });
  }

  support::RecordedStudy recorded_;
  core::Study& study_ = recorded_.study;
  std::vector<double> factors_;
  Bound passes_of_ = Bound::NotKnown;
};

TEST_F(Readings, GroupTheSuiteByPresetAndWorkloadWithItsTrend) {
  add("Ring pass", "2K dome", 1.10);
  add("Ring pass", "4K dome", 1.04);
  add("Star sweep", "2K dome", 1.12);
  add("Star sweep", "4K dome", 1.02);
  const core::SuiteReadings read = *found().readings;
  ASSERT_EQ(read.presets.size(), 2U);
  EXPECT_EQ(read.presets[0].name, "2K dome");
  EXPECT_NEAR(read.presets[0].improvement.value, 11, 0.3);
  EXPECT_NEAR(read.presets[1].improvement.value, 3, 0.3);
  ASSERT_EQ(read.workloads.size(), 2U);
  EXPECT_NEAR(read.workloads[0].improvement.value, 6.96, 0.3);
  ASSERT_TRUE(read.trend);
  EXPECT_NEAR(read.trend->change.value, 100 * (1.03 / 1.11 - 1), 0.5);  // the effect shrinks by so much
  EXPECT_LT(read.trend->change.interval->hi, 0);
  // Eight percentage points, from 11 % to 3 %; the ratio of the two improvements is 7.2 % below 1.
  EXPECT_EQ(core::trendText(*read.trend).find("From 2K dome to 4K dome the improvement is 8.0 ("), 0U)
      << core::trendText(*read.trend);
  EXPECT_TRUE(read.has_no_loss_anywhere);
  EXPECT_EQ(read.worst_case, 3U);
  EXPECT_EQ(read.better, 4);
  EXPECT_NEAR(read.sign_p, 0.125, 1e-12);
  EXPECT_TRUE(read.kinds.empty());
}

TEST_F(Readings, NameTheCaseThatCarriesTheSuiteAndTheLossThatIsThere) {
  add("Ring pass", "", 1.30);
  add("Star sweep", "", 1.0);
  add("Aurora field", "", 0.95);
  const core::Findings findings = found();
  EXPECT_FALSE(findings.readings->has_no_loss_anywhere);
  EXPECT_EQ(findings.readings->worst_case, 2U);
  ASSERT_FALSE(findings.readings->without_one.empty());
  EXPECT_EQ(findings.readings->without_one.front().name, "without Ring pass");
  EXPECT_TRUE(has(core::findingDoubts(study_, findings, {}), "carried_by_one"));
}

TEST_F(Readings, TellNoKindsApartWhereThereIsOne) {
  add("Ring pass", "", 1.05, true);
  add("Star sweep", "", 1.06, true);
  EXPECT_TRUE(found().readings->kinds.empty()) << "all are synthetic";
  EXPECT_FALSE(found().readings->doSyntheticAndRealDisagree());
  study_.cases[0].is_synthetic = false;
  const core::Findings both = found();
  ASSERT_EQ(both.readings->kinds.size(), 2U);
  EXPECT_EQ(both.readings->kinds[0].name, "real work");
  EXPECT_EQ(both.readings->kinds[1].name, "synthetic");
}

TEST_F(Readings, TellSyntheticFromRealAndSayWhereTheyDisagree) {
  add("Ring pass", "", 1.01);
  add("Star sweep", "", 1.01);
  add("Copy test", "", 1.25, true);
  add("Fill test", "", 1.25, true);
  const core::Findings findings = found();
  ASSERT_EQ(findings.readings->kinds.size(), 2U);
  EXPECT_TRUE(findings.readings->doSyntheticAndRealDisagree());
  const auto doubts = core::findingDoubts(study_, findings, {});
  EXPECT_TRUE(has(doubts, "synthetic_and_real"));
  for (const core::Doubt& one : doubts) EXPECT_EQ(one.kind->tells_of_effect, !one.id.starts_with("bound")) << one.id;
}

TEST_F(Readings, SayThatABoundCaseCannotShowTheChange) {
  passes_of_ = Bound::Graphics;
  add("Ring pass", "4K dome", 1.0);
  add("Star sweep", "4K dome", 1.0);
  const core::Findings findings = found();
  EXPECT_TRUE(findings.cases[0].is_bound_elsewhere);
  const auto doubts = core::findingDoubts(study_, findings, {});
  ASSERT_TRUE(has(doubts, "bound_elsewhere/Ring pass"));
  EXPECT_EQ(doubts.front().sentence,
            "Ring pass, 4K dome is graphics-bound at both levels (graphics 98 % busy, busiest core 50 %): its "
            "average FPS cannot show the change");
  EXPECT_FALSE(doubts.front().kind->tells_of_effect);
}

TEST_F(Readings, HoldAGainAgainstWhatTheResourceGained) {
  add("Ring pass", "", 1.30);
  add("Star sweep", "", 0.90);
  core::BenchProof proof;
  core::MeasuredStep step;
  step.ratio = 1.2;
  step.ratio_lo = 1.19;
  step.ratio_hi = 1.21;
  step.expected = 1.25;
  proof.measured = {step};
  const auto doubts = core::findingDoubts(study_, found(), proof);
  EXPECT_TRUE(has(doubts, "more_than_gained/Ring pass"));
  EXPECT_FALSE(has(doubts, "more_than_gained/Star sweep"));
  study_.variable().kind = "memory_capacity";  // more memory is not faster memory
  EXPECT_FALSE(has(core::findingDoubts(study_, found(), proof), "more_than_gained"));
  study_.variable().kind = "memory_speed";
  factors_ = {0.9, 0.9};
  EXPECT_TRUE(has(core::findingDoubts(study_, found(), proof), "upside_down"));
  proof.measured[0].ratio = 1.015;  // resources that hardly differ have no order
  proof.measured[0].ratio_lo = 1.01;
  EXPECT_FALSE(has(core::findingDoubts(study_, found(), proof), "upside_down"));
  factors_ = {1.30, 0.9};
  proof.measured[0].ratio_lo = 0.99;  // within the noise of the measurement
  EXPECT_FALSE(has(core::findingDoubts(study_, found(), proof), "more_than_gained"));
}

TEST_F(Readings, NeverSayThatACaseCannotShowWhatItShows) {
  passes_of_ = Bound::Graphics;
  add("Ring pass", "4K dome", 1.05);
  add("Star sweep", "4K dome", 1.0);
  const core::Findings findings = found();
  EXPECT_FALSE(findings.cases[0].is_bound_elsewhere);  // its interval excludes 0
  EXPECT_TRUE(findings.cases[1].is_bound_elsewhere);
}

TEST_F(Readings, KnowThatMainMemoryIsThatOfABuiltInDevice) {
  passes_of_ = Bound::Graphics;
  add("Ring pass", "4K dome", 1.0);
  core::VisitCapture built_in{1, core::CaptureMoment::Start, {}};
  for (const auto& [name, value] : {std::pair{"class", "0x030000"}, {"boot_vga", "1"}, {"chain", "0000:00:02.0"}}) {
    core::Fact fact;
    fact.name = std::string("pci/0000:00:02.0/") + name;
    fact.value = value;
    built_in.capture.put(fact);
  }
  const std::vector captures{built_in};
  EXPECT_TRUE(found().cases[0].is_bound_elsewhere);
  recorded_.also.captures = captures;
  EXPECT_FALSE(found().cases[0].is_bound_elsewhere);
}

TEST_F(Readings, GiveTheTrendOfASingleWorkloadToo) {
  add("Ring pass", "2K dome", 1.02);
  add("Ring pass", "4K dome", 1.05);
  const core::SuiteReadings read = *found().readings;
  EXPECT_TRUE(read.presets.empty());
  ASSERT_TRUE(read.trend);
  EXPECT_NE(core::trendText(*read.trend).find("the improvement is 3.0 ("), std::string::npos);
}

TEST_F(Readings, SumUpWhatRespondsAndSaySo) {
  add("Ring pass", "", 1.05);
  add("Star sweep", "", 1.06);
  add("Comet close-up", "", 1.0);
  study_.cases[2].is_control = true;
  const core::Findings findings = found();
  EXPECT_EQ(findings.suite->cases, (std::vector<std::size_t>{0, 1}));
  EXPECT_EQ(core::claimOf(study_, findings).cases, "2 of 3 cases");
  EXPECT_EQ(core::resultRows(study_, findings, {}).front().title, "2 of 3 cases");
}

TEST_F(Readings, KeepTheSuiteOfTheOthersWhereACaseDoesNotRunAtALevel) {
  add("Ring pass", "", 1.05);
  add("Star sweep", "", 1.06);
  add("Aurora field", "", 1.04);
  (void)found();
  for (core::Pass& pass : recorded_.passes) {
    const core::Slot slot = core::scheduleOf(study_)[pass.slot];
    if (slot.case_index != 1 || slot.configuration != ConfigurationId::Changed) continue;
    pass.status = core::PassStatus::Failed;
    pass.value.reset();
  }
  const core::Findings findings = recorded_.findings();
  ASSERT_TRUE(findings.suite);
  EXPECT_EQ(findings.suite->cases, (std::vector<std::size_t>{0, 2}));
  const auto doubts = core::findingDoubts(study_, findings, {});
  const auto named = std::find_if(doubts.begin(), doubts.end(),
                                  [](const core::Doubt& one) { return one.id == "not_in_suite/changed"; });
  ASSERT_NE(named, doubts.end());
  EXPECT_EQ(named->sentence, "Not in the suite, since no pass counts at 6000 MT/s: Star sweep");
}

TEST_F(Readings, SayInTheHeadlineThatCasesSettleInOppositeDirections) {
  add("Ring pass", "", 1.10);
  add("Star sweep", "", 1.08);
  add("Aurora field", "", 0.904);
  const core::Findings findings = found();
  const core::Claim claim = core::claimOf(study_, findings);
  EXPECT_TRUE(claim.outcome.ends_with(", 2 gain, 1 loses")) << claim.outcome;
  EXPECT_EQ(recorded_.judged().claim.safety, "6000 MT/s is not safe to use: Aurora field loses 9.6 %");
  factors_[2] = 1.0;
  (void)found();
  // Percentages alone do not make a level safe whose kind asks for a test.
  EXPECT_EQ(recorded_.judged().claim.safety, "Open whether 6000 MT/s is safe to use: it was not tested for errors");
  recorded_.also.stable = {ConfigurationId::Changed};
  EXPECT_EQ(recorded_.judged().claim.safety, "6000 MT/s is safe to use: no case loses as much as matters");
  factors_[2] = 0.981;
  (void)found();
  EXPECT_EQ(recorded_.judged().claim.safety,
            "Open whether 6000 MT/s is safe to use: Aurora field loses, by how much is not settled");
}

TEST_F(Readings, SayOfRatesAndTimesTogetherThatTheyImproveOrWorsen) {
  add("Ring pass", "", 1.10);
  add("Sky survey", "", 0.9);
  study_.cases[1].metric = {"render time", "s", core::Direction::LowerIsBetter};
  const auto claim = [&] { return core::claimOf(study_, found()).sentence(); };
  EXPECT_NE(claim().find(" improves average FPS and render time over 2 cases by 10.6 % ("), std::string::npos)
      << claim();
  factors_ = {0.9, 1.1};
  EXPECT_NE(claim().find(" worsens average FPS and render time over 2 cases by 9.5 % ("), std::string::npos) << claim();
  factors_ = {1.0, 1.0};
  EXPECT_NE(claim().find(" changes average FPS and render time over 2 cases by less than matters, an improvement of "),
            std::string::npos)
      << claim();
}

TEST_F(Readings, DoNotTellADirectionWhileTheyAreSealed) {
  add("Ring pass", "", 1.10);
  add("Sky survey", "", 0.9);
  study_.cases[1].metric = {"render time", "s", core::Direction::LowerIsBetter};
  study_.plan.is_sealed = true;
  (void)found();
  recorded_.passes.pop_back();
  const core::Judgement judged = recorded_.judged();
  ASSERT_TRUE(judged.is_sealed && judged.findings.suite);
  EXPECT_TRUE(
      judged.claim.sentence().ends_with("changes average FPS and render time over 2 cases by … sealed until all " +
                                        std::to_string(judged.findings.planned_passes) + " passes are done"))
      << judged.claim.sentence();
}

TEST_F(Readings, NameTheStrongestCarrierAndNoneWhereEveryCaseWouldCarry) {
  add("Ring pass", "", 1.03);
  add("Star sweep", "", 1.30);
  add("Aurora field", "", 1.0);
  add("Nebula volume", "", 1.0);
  const core::Findings one = found();
  ASSERT_FALSE(one.readings->without_one.empty());
  EXPECT_EQ(one.readings->without_one.front().name, "without Star sweep");
  factors_ = {1.30, 0.77, 1.31, 0.76};
  EXPECT_TRUE(found().readings->without_one.empty());
}

TEST_F(Readings, GiveOtherYardsticksAndSecondOpinionsBesideEachCase) {
  add("Ring pass", "", 1.025);
  add("Star sweep", "", 1.10);
  study_.notice_threshold_percent = 1;
  const core::Findings findings = found();
  EXPECT_EQ(findings.cases[0].verdict, core::Verdict::Gain);
  EXPECT_EQ(findings.cases[0].by_band, core::Standing::Within);  // the band is 3 %
  EXPECT_EQ(findings.cases[1].by_band, core::Standing::Gain);
  ASSERT_TRUE(findings.cases[0].second_opinion);
  EXPECT_EQ(findings.cases[0].second_opinion->arrangements, 64);  // the signs of six rounds
  EXPECT_NEAR(findings.cases[0].second_opinion->p, 2.0 / 64, 1e-12);
  const auto doubts = core::findingDoubts(study_, findings, {});
  const auto named = std::find_if(doubts.begin(), doubts.end(), [](const auto& one) { return one.id == "yardsticks"; });
  ASSERT_NE(named, doubts.end());
  EXPECT_EQ(named->sentence, "Another yardstick judges Ring pass differently from the interval");
}

}  // namespace
