// The costliest preset of a workload that holds the target, at each level.
#include "core/findings/presets_held.h"

#include <gtest/gtest.h>

#include <cmath>

#include "support/studies.h"

namespace {

using core::HoldsTarget;

class Presets : public testing::Test {
 protected:
  struct Held {
    HoldsTarget baseline;
    HoldsTarget changed;
  };
  void add(const char* workload, const char* preset, double fps, Held by_average, Held with_low) {
    core::Case a_case = study_.cases[0];
    a_case.workload = workload;
    a_case.preset = preset;
    cases_.push_back(a_case);
    core::CaseFinding finding;
    finding.case_index = cases_.size() - 1;
    finding.effect = core::Effect{};
    finding.effect->level_baseline = fps;
    finding.holds_baseline = by_average.baseline;
    finding.holds_changed = by_average.changed;
    core::SecondaryMetric low;
    low.name = "1 % low (percentile)";
    low.holds = {with_low.baseline, with_low.changed};
    finding.secondary.push_back(low);
    findings_.cases.push_back(finding);
  }
  std::vector<core::PresetsHeld> held() {
    study_.cases = cases_;
    return core::presetsHeld(study_, findings_);
  }

  static constexpr Held kBoth{HoldsTarget::Holds, HoldsTarget::Holds};
  static constexpr Held kNeither{HoldsTarget::Fails, HoldsTarget::Fails};
  static constexpr Held kChanged{HoldsTarget::Fails, HoldsTarget::Holds};
  static constexpr Held kOpen{HoldsTarget::NotSettled, HoldsTarget::NotSettled};
  static constexpr Held kNone{HoldsTarget::DoesNotApply, HoldsTarget::DoesNotApply};
  core::Study study_ = support::studyOf({"w"});
  std::vector<core::Case> cases_;
  core::Findings findings_;
};

TEST_F(Presets, AreRankedByWhatTheyCostAndNotByTheirPlaceInTheQuestion) {
  add("Ring pass", "2K dome", 120, kBoth, kBoth);
  add("Ring pass", "8K dome", 40, kNeither, kNeither);
  add("Ring pass", "4K dome", 59, kChanged, kOpen);
  const auto all = held();
  ASSERT_EQ(all.size(), 1U);
  EXPECT_EQ(all[0].workload, "Ring pass");
  EXPECT_EQ(all[0].by_average[0], 0U);  // 2K dome
  EXPECT_EQ(all[0].by_average[1], 2U);  // 4K dome, once changed
  EXPECT_EQ(all[0].with_low[1], 0U);    // what is not settled is not held
  EXPECT_EQ(all[0].low, "1 % low (percentile)");
  EXPECT_TRUE(all[0].isCrossed());
}

TEST_F(Presets, OfCrossedWorkloadsComeFirst) {
  add("Nebula volume", "4K dome", 70, kBoth, kBoth);
  add("Nebula volume", "2K dome", 140, kBoth, kBoth);
  add("Star sweep", "4K dome", 58, kNeither, kNeither);
  add("Star sweep", "2K dome", 61, kChanged, kChanged);
  const auto all = held();
  ASSERT_EQ(all.size(), 2U);
  EXPECT_EQ(all[0].workload, "Star sweep");
  EXPECT_EQ(all[0].by_average[0], std::nullopt);
  EXPECT_FALSE(all[1].isCrossed());
}

TEST_F(Presets, OfOneAloneOrWithoutARateSayNothing) {
  add("Comet close-up", "4K dome", 70, kBoth, kBoth);
  add("Sky survey", "4K dome", 1, kNone, kNone);
  add("Sky survey", "2K dome", 1, kNone, kNone);
  EXPECT_TRUE(held().empty());
}

TEST(HoldsTarget, FollowsTheIntervalOfTheMean) {
  core::Study study = support::studyOf({"w"});
  const core::Metric fps{"average FPS", "FPS", core::Direction::HigherIsBetter};
  const auto holds = [&](std::vector<double> rates, const core::Metric& metric) {
    for (double& rate : rates) rate = std::log(rate);
    return core::holdsTarget(rates, true, metric, study, study.target_fps);
  };
  EXPECT_EQ(holds({61, 61.2, 61.1}, fps), HoldsTarget::Holds);
  EXPECT_EQ(holds({59, 59.1, 58.9}, fps), HoldsTarget::Fails);
  EXPECT_EQ(holds({59, 62, 60.5}, fps), HoldsTarget::NotSettled);
  EXPECT_EQ(holds({100}, fps), HoldsTarget::NotSettled);  // one pass says nothing of its mean
  EXPECT_EQ(holds({61, 61}, {"render time", "s", core::Direction::LowerIsBetter}), HoldsTarget::DoesNotApply);
}

}  // namespace
