// What the sheet decides by rule: limits, samples, extensions, and the doubts that rest on how passes went.
#include <gtest/gtest.h>

#include <cmath>
#include <limits>

#include "core/findings/result_row.h"
#include "core/judgement/judgement.h"
#include "core/machine/samples.h"
#include "core/planning/extension.h"
#include "core/study/schedule.h"
#include "support/recorded_study.h"

namespace {

using core::Channel;
using core::ChannelRole;
using core::ConfigurationId;
using core::DoubtRank;

constexpr double kNotRead = std::numeric_limits<double>::quiet_NaN();

core::Samples samplesOf(std::vector<Channel> channels) {
  core::Samples samples;
  samples.at_s.resize(channels.front().values.size());
  samples.channels = std::move(channels);
  return samples;
}

TEST(Samples, AreSummedUpWithoutWhatCouldNotBeRead) {
  const auto summaries =
      core::summarize(samplesOf({{"a", "°C", ChannelRole::Temperature, "p", {}, {50, kNotRead, 70, 60, 90, 80}},
                                 {"b", "W", ChannelRole::Power, "p", {}, {kNotRead, kNotRead}}}));
  ASSERT_EQ(summaries.size(), 1U);
  EXPECT_EQ(summaries[0].lowest, 50);
  EXPECT_EQ(summaries[0].median, 70);
  EXPECT_EQ(summaries[0].highest, 90);
  EXPECT_EQ(summaries[0].first_third, 50);
  EXPECT_EQ(summaries[0].last_third, 80);
}

TEST(Limits, StopAtACriticalPartOrAFanThatFailed) {
  const auto reached = [](double celsius, std::optional<double> critical, double rpm) {
    return core::limitReached(
        samplesOf({{"chip temp1", "°C", ChannelRole::Temperature, "hwmon0", critical, {20, celsius}},
                   {"chip fan1", "rpm", ChannelRole::Fan, "hwmon0", {}, {900, rpm}}}));
  };
  EXPECT_FALSE(reached(94.9, 95, 900));
  EXPECT_EQ(reached(95, 95, 900), "chip temp1 is at 95 °C, its maker's critical temperature is 95 °C");
  EXPECT_FALSE(reached(120, {}, 900));  // no limit is known: the firmware has its own
  EXPECT_FALSE(reached(60, 95, 0));     // a fan may rest on a cool part
  EXPECT_TRUE(reached(85, 95, 0));
  EXPECT_FALSE(reached(kNotRead, 95, kNotRead));
}

TEST(Limits, AreCountedByHowTheirCountersGrew) {
  const Channel core_count{"a", "times", ChannelRole::Throttle, "processor", {}, {100, kNotRead, 103}};
  const Channel package{"b", "times", ChannelRole::Throttle, "processor", {}, {7, 7, 8}};
  EXPECT_EQ(core::throttlings(samplesOf({core_count, package})), 4);
  EXPECT_EQ(core::throttlings(samplesOf({{"c", "%", ChannelRole::Load, "p", {}, {1}}})), std::nullopt);
}

TEST(Levels, ThatGoBeyondTheMakerAreKnownByWhatTheyWrite) {
  core::Setup setup;
  setup.writes = {{"/sys/devices/system/cpu/cpufreq/policy*/scaling_governor", "performance"}};
  EXPECT_FALSE(core::raisesLimits(setup));
  setup.writes.push_back({"/sys/class/powercap/zone0/constraint_0_power_limit_uw", "95000000"});
  EXPECT_TRUE(core::raisesLimits(setup));
}

/// A study of three rounds whose passes are as a test wants them.
class SheetDoubts : public testing::Test {
 protected:
  SheetDoubts() {
    study_ = support::roundsOf(3);
    study_.plan.drawn =
        core::pairRounds({ConfigurationId::Baseline, ConfigurationId::Changed, ConfigurationId::Baseline});
  }
  /// `change` of the changed level, with a scatter of `spread` from round to round.
  void record(double change, double spread) {
    schedule_ = core::scheduleOf(study_);
    recorded_.record([&](core::Pass& pass, const core::Slot& slot) {
      const double luck = slot.configuration == ConfigurationId::Changed ? spread * (slot.round % 3 - 1) : 0;
      pass.value = 100 * std::exp((slot.configuration == ConfigurationId::Changed ? change : 0) + luck);
    });
  }
  core::Judgement judged() { return recorded_.judged(); }
  std::optional<core::Doubt> doubt(const std::string& id) {
    for (const core::Doubt& one : judged().doubts)
      if (one.id == id) return one;
    return std::nullopt;
  }

  support::RecordedStudy recorded_;
  core::Study& study_ = recorded_.study;
  core::Record& record_ = recorded_.also;
  std::vector<core::Slot> schedule_;
  std::vector<core::Visit>& visits_ = recorded_.visits;
  std::vector<core::Pass>& passes_ = recorded_.passes;
};

TEST_F(SheetDoubts, NameAVisitWhosePassesAllLieApart) {
  study_.plan.rounds = 6;
  study_.plan.passes_per_visit = 2;
  study_.plan.drawn = core::pairRounds(std::vector(6, ConfigurationId::Baseline));
  const auto recordWith = [&](double apart) {
    recorded_.record([&](core::Pass& pass, const core::Slot& slot) {
      const double luck = 0.001 * (slot.visit % 3 - 1) + 0.0007 * (slot.number % 2);
      pass.value = 100 * std::exp(luck + (slot.visit == 5 ? apart : 0));
    });
  };
  recordWith(0.1);
  const auto odd = doubt("odd_visit/Ring pass, 4K dome/5");
  ASSERT_TRUE(odd);
  EXPECT_EQ(odd->rank, DoubtRank::Caution);
  EXPECT_FALSE(doubt("odd_passes")) << "one sentence is enough";
  recordWith(0);
  EXPECT_FALSE(doubt("odd_visit/Ring pass, 4K dome/5"));
}

TEST_F(SheetDoubts, CountThePassesThatAreDamaged) {
  record(0.05, 0.002);
  EXPECT_FALSE(doubt("damaged_passes"));
  passes_[1].is_damaged = true;
  EXPECT_EQ(doubt("damaged_passes")->sentence, "1 pass is damaged in the study file and left out");
  passes_[2].is_damaged = true;
  EXPECT_EQ(doubt("damaged_passes")->sentence, "2 passes are damaged in the study file and left out");
}

TEST_F(SheetDoubts, StopWhereAPictureWasNotShownAlikeInAllPasses) {
  record(0.05, 0.002);
  for (core::Pass& pass : passes_)
    pass.presentation = core::Presentation{"Vulkan", "FIFO", "Luma-9", "ring", 1280, 800};
  EXPECT_FALSE(doubt("presented/Ring pass, 4K dome"));
  passes_.back().presentation->present_mode = "mailbox";
  const auto shown = doubt("presented/Ring pass, 4K dome");
  ASSERT_TRUE(shown);
  EXPECT_EQ(shown->rank, DoubtRank::Stop);
  EXPECT_NE(shown->sentence.find("mailbox, on Luma-9 in 1"), std::string::npos) << shown->sentence;
}

TEST_F(SheetDoubts, FindAControlThatMoved) {
  core::Case control = study_.cases[0];
  control.workload = "Comet close-up";
  control.is_control = true;
  study_.cases.push_back(control);
  record(0.06, 0.002);
  const auto moved = doubt("control_moved/Comet close-up, 4K dome");
  ASSERT_TRUE(moved);
  EXPECT_EQ(moved->rank, DoubtRank::Caution);
  EXPECT_FALSE(judged().findings.suite);  // a control is no part of the answer, and one case is no suite
  study_.cases[1].is_control = false;
  EXPECT_TRUE(judged().findings.suite);
  EXPECT_FALSE(doubt("control_moved/Comet close-up, 4K dome"));
  study_.cases[1].feature = core::FeatureActs::No;  // what is changed does not act there: it should not move either
  EXPECT_TRUE(doubt("control_moved/Comet close-up, 4K dome"));
}

// As drift: where chance alone would do as much in less than one study of twenty, and not before.
TEST_F(SheetDoubts, NameAFirstPassThatDiffersAtFivePercent) {
  study_.plan.passes_per_visit = 3;
  study_.notice_threshold_percent = 0.1;  // else what is small is not said
  int said = 0;
  int unsaid = 0;
  for (double slower = 0; slower < 0.02; slower += 0.0002) {
    recorded_.record([&](core::Pass& pass, const core::Slot& slot) {
      pass.value =
          100 * std::exp((slot.number == 1 ? -slower : 0) + 0.003 * ((slot.visit * 5 + slot.number * 3) % 7 - 3));
    });
    const auto warm_up = judged().findings.cases[0].warm_up;
    ASSERT_TRUE(warm_up && warm_up->inference);
    const bool is_said = doubt("warm_up").has_value();
    if (warm_up->inference->p > 0.02 && warm_up->inference->p < 0.045) said += is_said ? 1 : -1000;
    if (warm_up->inference->p > 0.055 && warm_up->inference->p < 0.3) unsaid += is_said ? -1000 : 1;
  }
  EXPECT_GT(said, 0);
  EXPECT_GT(unsaid, 0);
}

TEST_F(SheetDoubts, SayThatAMeasurementComparesPageSizesToo) {
  record(0.05, 0.001);
  std::vector<core::VisitMeasurement> measured;
  const auto measure = [&](double at_changed) {
    measured.clear();
    for (const core::Visit& visit : visits_) {
      const double size = visit.configuration == ConfigurationId::Changed ? at_changed : 2048;
      measured.push_back(
          {visit.id, core::CaptureMoment::Start, {{"read_GBps", {{50}}}, {core::kPageSize, {{size}}}}, ""});
    }
    record_.measurements = measured;
  };
  measure(2048);
  EXPECT_FALSE(doubt("page_size"));
  measure(4);
  EXPECT_EQ(doubt("page_size")->rank, DoubtRank::Caution);
  EXPECT_NE(doubt("page_size")->sentence.find("2048 KiB at 4800 MT/s and of 4 KiB at 6000 MT/s"), std::string::npos);
}

TEST_F(SheetDoubts, LeaveAControlAloneThatDidNotMove) {
  study_.cases[0].is_control = true;
  record(0.0001, 0.0002);
  EXPECT_FALSE(doubt("control_moved/Ring pass, 4K dome"));
}

TEST_F(SheetDoubts, WeighALimitThatSetInByTheSchool) {
  record(0.05, 0.001);
  passes_[1].throttled = 3;
  EXPECT_EQ(doubt("throttled")->rank, DoubtRank::Caution);
  study_.school = core::School::WithHeadroom;
  EXPECT_EQ(doubt("throttled")->rank, DoubtRank::Stop);
}

TEST_F(SheetDoubts, NameWhatAPersonDeclared) {
  record(0.05, 0.001);
  study_.cases[0].declared = {
      {"generated_frames", "one for each"}, {"frame_cap", "60 FPS"}, {"automatic_quality", "off"}};
  EXPECT_TRUE(doubt("generated_frames/Ring pass, 4K dome"));
  EXPECT_TRUE(doubt("frame_cap/Ring pass, 4K dome"));
  EXPECT_FALSE(doubt("automatic_quality/Ring pass, 4K dome"));
}

TEST_F(SheetDoubts, AskForATestWhereTheVariableCallsForOne) {
  record(0.05, 0.001);
  EXPECT_FALSE(doubt("untested/changed"));
  study_.variable().kind = "memory_speed";
  EXPECT_TRUE(doubt("untested/changed"));
  record_.stable = {ConfigurationId::Baseline, ConfigurationId::Changed};
  EXPECT_FALSE(doubt("untested/changed"));
}

TEST_F(SheetDoubts, SayThatTheBenchRanOnItsBattery) {
  record(0.05, 0.001);
  core::VisitCapture capture{1, core::CaptureMoment::Start, {}};
  core::Fact mains;
  mains.name = "power/AC/online";
  mains.value = "0";
  capture.capture.put(mains);
  const std::vector captures{capture};
  record_.captures = captures;
  EXPECT_TRUE(doubt("on_battery"));
}

TEST_F(SheetDoubts, CompleteAPlanWithoutThePassesThatWereLeftOut) {
  record(0.05, 0.001);
  passes_.pop_back();
  EXPECT_FALSE(judged().findings.done.is_first_done);
  record_.skipped = {{5, "the save is broken"}};
  EXPECT_TRUE(judged().findings.done.is_first_done);
  EXPECT_NE(doubt("skipped")->sentence.find("the save is broken"), std::string::npos);
}

TEST_F(SheetDoubts, KeepWhatAControlSaysSealed) {
  study_.cases[0].is_control = true;
  record(0.06, 0.002);
  passes_.pop_back();
  study_.plan.is_sealed = true;
  EXPECT_TRUE(judged().is_sealed);
  EXPECT_FALSE(doubt("control_moved/Ring pass, 4K dome"));
}

TEST_F(SheetDoubts, SizeAnExtensionByTheSpreadAndNeverByTheEffect) {
  record(0.03, 0.02);
  const auto extension = judged().extension;
  ASSERT_TRUE(extension);
  // Round differences scatter by 2 % (sd), and three tell it: t_2 s / sqrt(R) <= 0.6 ln 1.02 from R = 53 on.
  EXPECT_EQ(extension->rounds, 50);
  EXPECT_LE(extension->extended_half_width_percent, 100 * std::expm1(0.6 * std::log(1.02)));
  passes_.clear();
  visits_.clear();
  record(-0.2, 0.02);
  EXPECT_EQ(judged().extension->rounds, 50);  // another effect, the same spread
  study_.plan.extension_rounds = 2;
  EXPECT_FALSE(judged().extension);
}

TEST_F(SheetDoubts, OfferNoExtensionWhereTheIntervalIsNarrowEnough) {
  record(0.03, 0.0005);
  EXPECT_FALSE(judged().extension);
}

TEST_F(SheetDoubts, MoveTheLastLookWithOneMoreRound) {
  study_.plan.rounds = 4;
  study_.plan.drawn = core::drawRounds(2, 4, 1);
  study_.plan.looks = {3, 4};
  const core::Study more = core::withOneMoreRound(study_);
  EXPECT_EQ(more.plan.looks, (std::vector{3, 5}));
  EXPECT_TRUE(core::problemsOf(more).empty());
}

TEST_F(SheetDoubts, BeginOneMoreRoundWithTheLevelThatBeganLessOften) {
  for (const ConfigurationId often : {ConfigurationId::Baseline, ConfigurationId::Changed}) {
    const ConfigurationId seldom =
        often == ConfigurationId::Baseline ? ConfigurationId::Changed : ConfigurationId::Baseline;
    study_.plan.rounds = 3;
    study_.plan.drawn = core::pairRounds({often, seldom, often});
    EXPECT_EQ(core::withOneMoreRound(study_).plan.drawn.back().front(), seldom);
  }
}

TEST_F(SheetDoubts, ExtendByABalancedShuffleOfItsOwn) {
  const core::Study more = core::extended(study_, {5, 0, 0});
  EXPECT_EQ(more.plan.rounds, 8);
  ASSERT_EQ(more.plan.drawn.size(), 8U);
  EXPECT_TRUE(std::equal(study_.plan.drawn.begin(), study_.plan.drawn.end(), more.plan.drawn.begin()));
  const auto first = std::count(more.plan.drawn.begin() + 3, more.plan.drawn.end(),
                                core::pairRounds({ConfigurationId::Baseline}).front());
  EXPECT_TRUE(first == 2 || first == 3);
  EXPECT_TRUE(core::problemsOf(more).empty());
}

TEST(Looks, AreSpreadEvenlyAndNeverBeforeTheThirdRound) {
  EXPECT_EQ(core::evenLooks(1, 8), std::vector<int>{});
  EXPECT_EQ(core::evenLooks(2, 8), (std::vector{4, 8}));
  EXPECT_EQ(core::evenLooks(3, 9), (std::vector{3, 6, 9}));
  EXPECT_EQ(core::evenLooks(3, 5), (std::vector{3, 5}));
  EXPECT_EQ(core::evenLooks(3, 3), std::vector<int>{});  // nothing to look at before the end
}

TEST_F(SheetDoubts, ShowTheResultsAtAPlannedLookAndNotBetween) {
  study_.plan.rounds = 6;
  study_.plan.drawn = core::drawRounds(2, 6, 1);
  study_.plan.looks = {3, 6};
  study_.plan.is_sealed = true;
  EXPECT_TRUE(core::problemsOf(study_).empty());
  record(0.05, 0.001);
  const auto all = passes_;
  const auto with = [&](std::size_t passes) {
    passes_.assign(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(passes));
    return judged();
  };
  EXPECT_TRUE(with(5).is_sealed);
  EXPECT_EQ(with(6).look, 3);
  EXPECT_FALSE(with(6).is_sealed);
  EXPECT_FALSE(with(6).findings.done.is_first_done);
  EXPECT_TRUE(with(7).is_sealed);
  EXPECT_EQ(with(7).look, std::nullopt);
  // Every interval pays for the looks, the one at the end too: a third of what all of them may miss.
  EXPECT_NEAR(with(12).findings.confidence, 1 - 0.05 / 3, 1e-12);
  const auto width = [](const core::Judgement& judgement) {
    const auto& interval = judgement.findings.cases[0].change.interval;
    return interval->hi - interval->lo;
  };
  const double paid = width(with(12));
  EXPECT_FALSE(judged().extension);
  study_.plan.looks.clear();
  EXPECT_GT(paid, 1.2 * width(judged()));
  // Stopped there by a person, the study is complete.
  study_.plan.looks = {3, 6};
  record_.is_stopped_at_look = true;
  EXPECT_TRUE(with(6).findings.done.is_first_done);
  EXPECT_TRUE(doubt("stopped_at_look"));
}

TEST_F(SheetDoubts, StopUntilWhatACrashLeftBehindIsProvedToBeBack) {
  record(0.05, 0.001);
  record_.put_back = "wrote 'powersave' to its governor";
  EXPECT_EQ(doubt("put_back")->rank, DoubtRank::Stop);
}

TEST_F(SheetDoubts, ConfirmASurpriseBesideTheCalmestCase) {
  core::Case another = study_.cases[0];
  another.workload = "Comet close-up";
  study_.cases.push_back(another);
  record(0.06, 0.002);
  for (std::size_t i = 0; i < passes_.size(); ++i)
    if (schedule_[i].case_index == 1) passes_[i].value = 100;
  EXPECT_EQ(core::leastSurprising(judged().findings, 0), 1U);
  study_.cases.pop_back();
  passes_.clear();
  visits_.clear();
  record(0.06, 0.002);
  EXPECT_EQ(core::leastSurprising(judged().findings, 0), std::nullopt);
}

TEST_F(SheetDoubts, NameAPassThatLiesFarFromItsFellowsAndLeaveItInUntilAPersonActs) {
  study_.plan.rounds = 6;
  study_.plan.drawn = core::drawRounds(2, 6, 1);
  record(0.05, 0.001);
  for (std::size_t i = 0; i < passes_.size(); ++i) passes_[i].id = static_cast<std::int64_t>(i) + 1;
  double nudge = 0;  // fellows differ a little
  for (core::Pass& pass : passes_) *pass.value *= 1 + (nudge = nudge > 0 ? -0.0007 : 0.0011);
  const auto baseline = std::find_if(schedule_.begin(), schedule_.end(), [](const core::Slot& slot) {
    return slot.configuration == ConfigurationId::Baseline && slot.round == 3;
  });
  core::Pass& odd = passes_[static_cast<std::size_t>(baseline - schedule_.begin())];
  *odd.value *= 0.9;
  EXPECT_EQ(judged().findings.cases[0].odd_passes, std::vector<std::int64_t>{odd.id});
  EXPECT_EQ(doubt("odd_passes")->rank, DoubtRank::Note);
  EXPECT_EQ(judged().findings.cases[0].counted_baseline, 6);  // nothing is left out by the program
  const double with = judged().findings.cases[0].change.value;
  odd.excluded_because = "another program was at work";
  const core::Judgement without = judged();
  EXPECT_EQ(without.findings.cases[0].counted_baseline, 5);
  EXPECT_NE(without.findings.cases[0].change.value, with);
  ASSERT_TRUE(without.with_all);
  EXPECT_EQ(without.with_all->cases[0].change.value, with);  // both are there to be seen
  EXPECT_NE(doubt("excluded")->sentence.find("another program"), std::string::npos);
  EXPECT_TRUE(without.findings.done.is_first_done);
}

TEST_F(SheetDoubts, SayWhatDriftAloneCouldExplain) {
  study_.plan.rounds = 6;
  // Always the same order: drift looks like a change.
  study_.plan.drawn =
      core::pairRounds({ConfigurationId::Baseline, ConfigurationId::Baseline, ConfigurationId::Baseline,
                        ConfigurationId::Baseline, ConfigurationId::Baseline, ConfigurationId::Changed});
  record(0, 0);
  for (std::size_t i = 0; i < passes_.size(); ++i) {
    passes_[i].started_ms = static_cast<std::int64_t>(i) * 600'000;  // ten minutes apart
    *passes_[i].value *= std::exp(-0.03 * static_cast<double>(i) / 6 + (i % 3 == 0 ? 0.0002 : -0.0001));
  }
  const auto drift = doubt("drift");
  ASSERT_TRUE(drift);
  EXPECT_EQ(drift->rank, DoubtRank::Caution);
  EXPECT_NE(drift->sentence.find("over the 1 h 50 min of the study; drift alone could explain up to −0."),
            std::string::npos)
      << drift->sentence;
}

TEST_F(SheetDoubts, JudgeDecibelsByTheirDifferenceInTheUnit) {
  study_.cases[0].source = core::ResultSource::JsonField;
  study_.cases[0].metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 1};
  record(0, 0);
  for (std::size_t i = 0; i < passes_.size(); ++i)
    passes_[i].value = (schedule_[i].configuration == ConfigurationId::Changed ? -2.0 : 1.0) + 0.1 * schedule_[i].round;
  const core::CaseFinding finding = judged().findings.cases[0];
  ASSERT_TRUE(finding.difference &&
              finding.difference->interval == std::nullopt);  // the same in every round: no spread
  EXPECT_NEAR(finding.difference->value, -3, 1e-12);
  *passes_[0].value += 0.2;
  const core::Judgement judgement = judged();
  EXPECT_EQ(judgement.findings.cases[0].verdict, core::Verdict::Gain);  // three decibels quieter, one matters
  EXPECT_EQ(judgement.claim.outcome.find("−3.0"), 0U) << judgement.claim.outcome;
  EXPECT_NE(judgement.claim.outcome.find(" dB (−"), std::string::npos);  // one minus sign, in intervals too
  EXPECT_EQ(judgement.claim.outcome.find('-'), std::string::npos) << judgement.claim.outcome;
  const core::ResultRow row = core::resultRows(study_, judgement.findings, {}).front();
  EXPECT_EQ(row.change, judgement.claim.outcome);  // the chart says what the claim says, with its verdict
  EXPECT_EQ(row.verdict, "gain");
}

TEST_F(SheetDoubts, PutWhatWasPinnedFirstInEveryChart) {
  core::Case another = study_.cases[0];
  another.workload = "Comet close-up";
  study_.cases.push_back(another);
  record(0.05, 0.002);
  for (std::size_t i = 0; i < passes_.size(); ++i)
    if (schedule_[i].case_index == 1) passes_[i].value = 100 + 0.1 * schedule_[i].round;
  const core::Judgement judgement = judged();
  const auto rows = core::resultRows(study_, judgement.findings, {{another.title(), "look here"}});
  EXPECT_EQ(rows[0].title, "All 2 cases");
  EXPECT_EQ(rows[1].title, "Comet close-up");
  EXPECT_EQ(rows[1].remark, "look here");
}

}  // namespace
