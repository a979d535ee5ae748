// How repeatable each case is on a bench, by all studies that ran it there.
#include <gtest/gtest.h>

#include <cmath>

#include "core/findings/repeatability.h"
#include "support/recorded_study.h"

namespace {

TEST(Repeatability, IsPooledByDegreesOfFreedomAndRankedAmongTheCasesOfTheBench) {
  const std::vector<core::CaseRepeatability> all{{"Ring pass", 20, 1, 0.01, 8},
                                                 {"Ring pass", 12, 0, 0.02, 4},
                                                 {"Star sweep", 10, 0, 0.004, 8},
                                                 {"Nebula volume", 10, 2, 0.03, 8},
                                                 {"Wind noise", 6, 0, std::nullopt, 0}};
  const auto pooled = core::pooledRepeatability(all);
  ASSERT_EQ(pooled.size(), 4U);
  EXPECT_EQ(pooled[1].title, "Ring pass");
  EXPECT_NEAR(*pooled[1].spread_percent, 100 * std::sqrt(std::exp(2e-4) - 1), 1e-9);  // (8·1e-4 + 4·4e-4) / 12
  EXPECT_EQ(pooled[1].text(),
            "passes differ by 1.41 %, 1 of 32 passes odd, in 2 studies; 1 of 3 cases here are steadier");
  EXPECT_EQ(pooled[0].text(),
            "passes differ by 3.00 %, 2 of 10 passes odd, in 1 study; the least steady of 3 cases here");
  EXPECT_EQ(pooled[2].text(), "passes differ by 0.40 %, 0 of 10 passes odd, in 1 study; the steadiest of 3 cases here");
  EXPECT_EQ(pooled[3].text(), "0 of 6 passes odd, in 1 study") << "a metric of differences has no percent";
  EXPECT_TRUE(core::pooledRepeatability({}).empty());
}

TEST(Repeatability, OfAStudyHasTheSpreadWithinVisitsAndTheOddPassesOfItsFindings) {
  support::RecordedStudy made{support::roundsOf(6, 3)};
  made.study.cases.push_back(made.study.cases[0]);
  made.study.cases[1].preset = "8K dome";
  made.study.cases.push_back(made.study.cases[0]);
  made.study.cases[2].preset = "2K dome";
  const auto fill = [&](double odd_percent) {
    made.record([&](core::Pass& pass, const core::Slot& slot) {
      if (slot.case_index == 2) return;                       // never ran
      const double flip = 0.05 * std::sin(2.9 * slot.visit);  // no part of it
      const double steps[]{-0.01, 0, 0.01};
      pass.value = 60 * std::exp(flip + steps[slot.number - 1] * (slot.case_index == 0 ? 1 : 2));
      if (slot.case_index == 0 && slot.visit == 3 && slot.number == 2) *pass.value *= 1 + odd_percent / 100;
    });
    return core::repeatabilityOf(made.study, made.recorded());
  };
  const auto even = fill(0);
  ASSERT_EQ(even.size(), 2U);
  EXPECT_EQ(even[0], (core::CaseRepeatability{"Ring pass, 4K dome", 36, 0, even[0].pass_sd, 24}));
  EXPECT_NEAR(*even[0].pass_sd, 0.01, 1e-9);
  EXPECT_NEAR(*even[1].pass_sd, 0.02, 1e-9);
  EXPECT_EQ(fill(60)[0].odd, 1);
}

}  // namespace
