// The headline in words: by which yardstick, whether the change is safe to leave on, and what is not known yet.
#include "core/judgement/claim.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/judgement/safety.h"
#include "support/recorded_study.h"

namespace {

/// Rounds of cases, each with its factor at the changed level and its spread from pass to pass, of 100.
class Claims : public testing::Test {
 protected:
  Claims() {
    study_ = support::roundsOf(6, 2);
    study_.cases.clear();
  }
  core::Case& add(const std::string& workload, double factor, double spread = 0.1) {
    core::Case one = support::studyOf({"workload", "{log}"}).cases[0];
    one.workload = workload;
    one.preset.clear();
    study_.cases.push_back(one);
    factors_.push_back(factor);
    spreads_.push_back(spread);
    return study_.cases.back();
  }
  core::Claim claim() {
    recorded_.record([this](core::Pass& pass, const core::Slot& slot) {
      const double luck = std::sin(1.7 * slot.visit + 0.9 * slot.number + static_cast<double>(slot.case_index));
      pass.value = 100 * (slot.configuration == core::ConfigurationId::Changed ? factors_[slot.case_index] : 1) +
                   spreads_[slot.case_index] * luck;
    });
    return recorded_.judged().claim;
  }

  support::RecordedStudy recorded_;
  core::Study& study_ = recorded_.study;
  std::vector<double> factors_;
  std::vector<double> spreads_;
};

TEST_F(Claims, NameTheYardstickWhereverItIsNotTheInterval) {
  add("Ring pass", 1.025);
  EXPECT_EQ(claim().verdict, "gain");
  study_.yardstick = core::Yardstick::FixedBand;
  EXPECT_EQ(claim().verdict, "within by a fixed band of 3 %");
  study_.band_percent = 2.5;
  factors_ = {1.03};
  EXPECT_EQ(claim().verdict, "gain by a fixed band of 2.5 %");
  factors_ = {0.977};  // a loss of 2.3 %: as much as a gain of 2.4 %
  EXPECT_EQ(claim().verdict, "within by a fixed band of 2.5 %");
  factors_ = {0.974};
  EXPECT_EQ(claim().verdict, "loss by a fixed band of 2.5 %");
  study_.yardstick = core::Yardstick::TwoRunToRunSds;
  EXPECT_TRUE(claim().verdict.starts_with("loss by two run-to-run sds, 0.")) << claim().verdict;
}

// What a control beside it scatters is its own affair, and no measure of the case that the claim is about.
TEST_F(Claims, ByTwoSdsRestOnTheSpreadOfWhatTheyAreAbout) {
  study_.yardstick = core::Yardstick::TwoRunToRunSds;
  add("Ring pass", 1.01);
  const std::string alone = claim().verdict;
  EXPECT_TRUE(alone.starts_with("gain by two run-to-run sds")) << alone;
  add("Comet close-up", 1.0, 5).is_control = true;
  EXPECT_EQ(claim().verdict, alone);
  EXPECT_EQ(*recorded_.findings().cases[0].by_two_sds, core::Standing::Gain);
  add("Star sweep", 1.01);  // a suite of two, beside the same control
  EXPECT_TRUE(claim().verdict.starts_with("gain by two run-to-run sds")) << claim().verdict;
  study_.cases[1].is_control = false;
  EXPECT_TRUE(claim().verdict.starts_with("within by two run-to-run sds")) << claim().verdict;
}

// Intervals at another confidence than most people take for granted say so, and so do those that pay for looks.
TEST(ClaimConfidence, IsNamedWhereItIsNotTheUsual) {
  support::RecordedStudy recorded{support::roundsOf(6)};
  const auto said = [&] {
    recorded.recordRates({50, 60});
    return recorded.judged().claim.sentence();
  };
  EXPECT_EQ(said().find("confidence"), std::string::npos) << said();
  recorded.study.confidence = 0.9;
  EXPECT_TRUE(said().ends_with(": gain, at 90 % confidence")) << said();
  recorded.study.confidence = 0.95;
  recorded.study.plan.looks = {3, 6};
  EXPECT_TRUE(said().ends_with("at 98.3 % confidence")) << said();
}

TEST_F(Claims, SayWhetherTheLevelIsSafeToUse) {
  add("Ring pass", 1.05);
  add("Star sweep", 1.0);
  EXPECT_EQ(claim().safety, "6000 MT/s is safe to use: no case loses as much as matters");
  factors_ = {0.9, 1.0};
  EXPECT_EQ(claim().safety, "6000 MT/s is not safe to use: Ring pass loses 10.0 %");
  factors_ = {0.95, 0.9};  // the one that loses most is named
  EXPECT_EQ(claim().safety, "6000 MT/s is not safe to use: Star sweep loses 10.0 %, and 1 more");
  factors_ = {0.981, 1.0};
  EXPECT_EQ(claim().safety, "Open whether 6000 MT/s is safe to use: Ring pass loses, by how much is not settled");
  factors_ = {1.0, 1.0};
  spreads_ = {6, 8};
  EXPECT_EQ(claim().safety,
            "Open whether 6000 MT/s is safe to use: a loss that matters is not ruled out for Ring pass, and 1 more");
  // What should not respond decides nothing about leaving it on.
  factors_ = {1.05, 0.9};
  spreads_ = {0.1, 0.1};
  study_.cases[1].is_control = true;
  EXPECT_EQ(claim().safety, "6000 MT/s is safe to use: no case loses as much as matters");
}

// Nobody leaves a host or a board on: not even while a stop keeps its question open.
TEST_F(Claims, OfAWholePartSayNothingOfSafetyWhileStopped) {
  EXPECT_EQ(core::safetyWhileStopped(study_), "Open whether it is safe to use: a stop doubt is open");
  study_.variable().kind = "host";
  EXPECT_EQ(core::safetyWhileStopped(study_), "Open whether a case loses as much as matters: a stop doubt is open");
}

TEST_F(Claims, OfDecibelsAreSafeByTheirUnit) {
  core::Case& noise = add("Ring pass", 1.0);
  noise.source = core::ResultSource::JsonField;
  noise.metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 1};
  EXPECT_EQ(claim().safety, "6000 MT/s is safe to use: no case loses as much as matters");
  factors_ = {1.03};
  EXPECT_EQ(claim().safety, "6000 MT/s is not safe to use: Ring pass loses 3.005 dB");
  EXPECT_EQ(claim().verdict, "loss");
  EXPECT_TRUE(claim().outcome.starts_with("+3.0")) << claim().outcome;
}

TEST_F(Claims, NameAtMostTwoMetrics) {
  const std::vector<std::size_t> all{0, 1, 2, 3};
  const auto names = [&](std::size_t count) { return core::metricNames(study_, std::span(all).first(count)); };
  add("Ring pass", 1.0);
  EXPECT_EQ(names(1), "average FPS");
  add("Sky survey", 1.0).metric = {"render time", "s", core::Direction::LowerIsBetter};
  add("Star sweep", 1.0);
  EXPECT_EQ(names(3), "average FPS and render time");
  add("Aurora field", 1.0).metric = {"copied", "GB/s"};
  EXPECT_EQ(names(4), "the headline metrics");
  EXPECT_EQ(names(0), "the result");
}

TEST_F(Claims, OfAPartOfTheCasesSayOfHowMany) {
  add("Ring pass", 1.05);
  add("Star sweep", 1.05);
  EXPECT_EQ(claim().cases, "2 cases");
  add("Comet close-up", 1.0).is_control = true;
  EXPECT_EQ(claim().cases, "2 of 3 cases");
  EXPECT_FALSE(core::claimOf(study_, {}).has_result);
  EXPECT_EQ(core::claimOf(study_, {}).cases, "3 cases");
}

TEST_F(Claims, AreNoneUntilBothLevelsAreMeasured) {
  add("Ring pass", 1.05);
  (void)claim();
  recorded_.passes.resize(1);
  const core::Claim half = core::claimOf(study_, recorded_.findings());
  EXPECT_EQ(half.outcome, "… not measured at both levels yet");
  EXPECT_FALSE(half.has_result);
  // What it yields at the only level where it runs stands beside that.
  const std::vector<core::Unreachable> unreachable{{core::ConfigurationId::Changed, "it does not start"}};
  const core::Claim without = core::claimOf(study_, recorded_.findings(), unreachable);
  EXPECT_EQ(without.outcome, "… 6000 MT/s is not reachable here");
  EXPECT_EQ(without.verdict,
            "it does not start; Ring pass has a result at 6000 MT/s only, 105.1 FPS, and whether it "
            "reaches the target rate of 60.0 FPS is not settled");
  (void)claim();
  EXPECT_TRUE(core::claimOf(study_, recorded_.findings(), unreachable).has_result) << "a result stands before it";
}

TEST(Trends, AreNeverAGainOrALossThemselves) {
  core::PresetTrend trend{"2K", "8K", 1, {}, {3.0, core::PercentInterval{1.0, 5.0}}};
  EXPECT_EQ(core::trendText(trend),
            "From 2K to 8K the improvement is 3.0 (1.0 to 5.0) percentage points larger, over the 1 workload that has "
            "both");
  trend.points = {-3.0, core::PercentInterval{-5.0, -1.0}};
  trend.workloads = 2;
  EXPECT_EQ(
      core::trendText(trend),
      "From 2K to 8K the improvement is 3.0 (1.0 to 5.0) percentage points smaller, over the 2 workloads that have "
      "both");
  trend.points = {3.0, core::PercentInterval{-1.0, 7.0}};
  EXPECT_NE(core::trendText(trend).find("is 3.0 (−1.0 to 7.0) percentage points larger (not settled)"),
            std::string::npos);
  trend.points.interval.reset();
  EXPECT_NE(core::trendText(trend).find("is 3.0 percentage points larger (not settled)"), std::string::npos);
}

}  // namespace
