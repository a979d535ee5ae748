// What planned looks cost the intervals of a study, and at which of them it stands.
#include <gtest/gtest.h>

#include "core/planning/candidate_plans.h"
#include "core/record/looks.h"
#include "core/study/look_confidences.h"
#include "support/recorded_study.h"

namespace {

using core::LookPrice;

class PaidLooks : public testing::Test {
 protected:
  PaidLooks() {
    recorded_.study.plan.looks = {3, 6};
    recorded_.study.plan.look_price = LookPrice::Spending;
    recorded_.recordRates({60, 63});
  }

  core::Judgement after(std::size_t passes) const {
    support::RecordedStudy part = recorded_;
    part.passes.resize(passes);
    return part.judged();
  }

  support::RecordedStudy recorded_{support::roundsOf(6, 1)};
};

TEST_F(PaidLooks, CostMuchAtTheFirstAndHardlyAnythingAtTheEnd) {
  const auto each = core::lookConfidences(recorded_.study);
  ASSERT_EQ(each.size(), 2U);
  EXPECT_EQ(after(6).look, 3);
  EXPECT_DOUBLE_EQ(after(6).findings.confidence, each[0]);
  EXPECT_NEAR(each[0], 0.99695, 1e-4);
  EXPECT_DOUBLE_EQ(after(12).findings.confidence, each[1]);
  EXPECT_NEAR(each[1], 0.951, 1e-3);
  EXPECT_EQ(after(12).claim.confidence, each[1]);
}

TEST_F(PaidLooks, BetweenTwoGoByTheOneThatWasTaken) {
  EXPECT_EQ(after(2).findings.confidence, after(6).findings.confidence);
  EXPECT_EQ(after(9).findings.confidence, after(6).findings.confidence);
}

TEST_F(PaidLooks, OfAStudyThatStoppedStayThoseOfTheLook) {
  recorded_.passes.resize(6);
  recorded_.also.is_stopped_at_look = true;
  const auto judged = recorded_.judged();
  EXPECT_TRUE(judged.findings.done.is_first_done);
  EXPECT_NEAR(judged.findings.confidence, 0.99695, 1e-4);
  EXPECT_EQ(judged.findings.cases[0].effect->contrast.inference->t_quantile,
            core::tQuantile(2, judged.findings.confidence));
}

TEST_F(PaidLooks, AreTheSameInEveryTable) {
  const auto judged = after(6);
  const auto* asked = judged.shape.find(0, 0);
  ASSERT_TRUE(asked);
  EXPECT_DOUBLE_EQ(asked->contrast.inference->lo, judged.findings.cases[0].effect->contrast.inference->lo);
}

TEST_F(PaidLooks, AreUpToFiveWhereTheyAreSpentAndThreeWhereEachTakesAThird) {
  core::Study study = support::roundsOf(10, 1);
  study.plan.looks = {3, 4, 6, 8, 10};
  EXPECT_FALSE(core::problemsOf(study).empty());
  study.plan.look_price = LookPrice::Spending;
  EXPECT_TRUE(core::problemsOf(study).empty());
  study.plan.looks = {3, 3, 10};
  EXPECT_FALSE(core::problemsOf(study).empty());
}

TEST_F(PaidLooks, AreNeverCalledCertain) {
  EXPECT_EQ(core::confidenceText(0.95), "95 %");
  EXPECT_EQ(core::confidenceText(1 - 0.05 / 3), "98.3 %");
  EXPECT_EQ(core::confidenceText(0.9999), "99.99 %");
}

TEST_F(PaidLooks, TellTheirPriceBeforeTheyAreChosen) {
  EXPECT_EQ(
      core::lookPriceText(recorded_.study),
      "Looked at after round 3 at 99.69 % confidence, at the end at 95.1 %: there the interval is 0.6 % wider for it");
  core::Study thirds = recorded_.study;
  thirds.plan.look_price = LookPrice::Thirds;
  EXPECT_NE(core::lookPriceText(thirds).find("at the end at 98.33 %"), std::string::npos);
  EXPECT_EQ(core::lookPriceText(support::roundsOf(6, 1)), "");
  EXPECT_LT(core::endConfidence(recorded_.study), core::endConfidence(thirds));
}

}  // namespace
