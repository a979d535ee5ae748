// The headline in words: by which yardstick, whether the change is safe to leave on, and what is not known yet.
#include "core/judgement/claim.h"

#include <gtest/gtest.h>

#include <cmath>

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
      pass.value =
          100 * (slot.side == core::Side::Changed ? factors_[slot.case_index] : 1) + spreads_[slot.case_index] * luck;
    });
    return core::claimOf(study_, recorded_.findings());
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

TEST_F(Claims, SayWhetherTheChangeIsSafeToLeaveOn) {
  EXPECT_EQ(core::safetyText(study_, {}), "");
  add("Ring pass", 1.05);
  add("Star sweep", 1.0);
  EXPECT_EQ(claim().safety, "Safe to leave on: no case loses as much as matters");
  factors_ = {0.9, 1.0};
  EXPECT_EQ(claim().safety, "Not safe to leave on: Ring pass loses 10.0 %");
  factors_ = {0.95, 0.9};  // the one that loses most is named
  EXPECT_EQ(claim().safety, "Not safe to leave on: Star sweep loses 10.0 %, and 1 more");
  factors_ = {0.981, 1.0};
  EXPECT_EQ(claim().safety, "Open whether it is safe to leave on: Ring pass loses, by how much is not settled");
  factors_ = {1.0, 1.0};
  spreads_ = {6, 8};
  EXPECT_EQ(claim().safety,
            "Open whether it is safe to leave on: a loss that matters is not ruled out for Ring pass, and 1 more");
  // What should not respond decides nothing about leaving it on.
  factors_ = {1.05, 0.9};
  spreads_ = {0.1, 0.1};
  study_.cases[1].is_control = true;
  EXPECT_EQ(claim().safety, "Safe to leave on: no case loses as much as matters");
}

TEST_F(Claims, OfDecibelsAreSafeByTheirUnit) {
  core::Case& noise = add("Ring pass", 1.0);
  noise.source = core::ResultSource::JsonField;
  noise.metric = {"noise", "dB", core::Direction::LowerIsBetter, core::Scale::Difference, 1};
  EXPECT_EQ(claim().safety, "Safe to leave on: no case loses as much as matters");
  factors_ = {1.03};
  EXPECT_EQ(claim().safety, "Not safe to leave on: Ring pass loses 3.005 dB");
  EXPECT_EQ(claim().verdict, "loss");
  EXPECT_TRUE(claim().outcome.starts_with("+3.0")) << claim().outcome;
}

TEST_F(Claims, NameAtMostTwoMetrics) {
  add("Ring pass", 1.0);
  EXPECT_EQ(core::metricNames(study_), "average FPS");
  add("Sky survey", 1.0).metric = {"render time", "s", core::Direction::LowerIsBetter};
  add("Star sweep", 1.0);
  EXPECT_EQ(core::metricNames(study_), "average FPS and render time");
  add("Aurora field", 1.0).metric = {"copied", "GB/s"};
  EXPECT_EQ(core::metricNames(study_), "the headline metrics");
  study_.cases.clear();
  EXPECT_EQ(core::metricNames(study_), "the result");
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
  const std::vector<core::Unreachable> unreachable{{core::Side::Changed, "it does not start"}};
  const core::Claim without = core::claimOf(study_, recorded_.findings(), unreachable);
  EXPECT_EQ(without.outcome, "… 6000 MT/s is not reachable here");
  EXPECT_EQ(without.verdict, "it does not start");
  (void)claim();
  EXPECT_TRUE(core::claimOf(study_, recorded_.findings(), unreachable).has_result) << "a result stands before it";
}

TEST(Trends, AreNeverAGainOrALossThemselves) {
  core::PresetTrend trend{"2K", "8K", 1, {3.0, core::PercentInterval{1.0, 5.0}}, true};
  EXPECT_EQ(core::trendText(trend), "From 2K to 8K the improvement grows by 3.0 % (1.0 to 5.0)");
  trend.change = {-3.0, core::PercentInterval{-5.0, -1.0}};
  EXPECT_EQ(core::trendText(trend), "From 2K to 8K the improvement shrinks by 3.0 % (1.0 to 5.0)");
  trend.is_gain = false;
  EXPECT_EQ(core::trendText(trend), "From 2K to 8K the improvement falls by 3.0 % (1.0 to 5.0)");
  trend.change = {3.0, core::PercentInterval{-1.0, 7.0}};
  EXPECT_EQ(core::trendText(trend), "From 2K to 8K the improvement rises by 3.0 % (−1.0 to 7.0), not settled");
  trend.change.interval.reset();
  EXPECT_EQ(core::trendText(trend), "From 2K to 8K the improvement rises by 3.0 %, not settled");
}

}  // namespace
