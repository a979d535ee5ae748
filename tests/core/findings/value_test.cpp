// What a change brings for its price: known answers, its interval, and prices that say nothing.
#include "core/findings/value.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/study/prices.h"
#include "support/recorded_study.h"

namespace {

support::RecordedStudy pricedStudy(std::optional<double> from, std::optional<double> to) {
  support::RecordedStudy made{support::studyOf({"workload", "{log}"})};
  auto& levels = made.study.variable().levels;
  if (from) levels[0].price = core::Price{*from, "EUR"};
  if (to) levels[1].price = core::Price{*to, "EUR"};
  made.study.plan.is_sealed = false;
  return made;
}

core::Value valueOf(double from, double to, double gain_percent) {
  support::RecordedStudy study = pricedStudy(from, to);
  study.recordRates({100, 100 + gain_percent});
  const core::Judgement judgement = study.judged();
  EXPECT_EQ(judgement.value.size(), 1U);
  return judgement.value.empty() ? core::Value() : judgement.value.front();
}

TEST(Value, IsPercentForEachHundredAndTheExtraPriceThatIsPaidFor) {
  support::RecordedStudy study = pricedStudy(420, 475);
  study.recordRates({100, 105.72});
  const core::Judgement judgement = study.judged();
  ASSERT_EQ(judgement.value.size(), 1U);
  const core::Value& value = judgement.value.front();
  const double gain = judgement.findings.cases[0].improvement.value;
  EXPECT_NEAR(gain, 5.72, 0.3);
  EXPECT_EQ(value.extra_price, 55);
  EXPECT_NEAR(*value.percent_for_each_100, 10.4 * gain / 5.72, 1e-9);
  EXPECT_NEAR(*value.paid_for_up_to, 24.024 * gain / 5.72, 1e-9);
  ASSERT_TRUE(value.paid_for_interval);
  EXPECT_NEAR(value.paid_for_interval->first, 4.2 * judgement.findings.cases[0].improvement.interval->lo, 1e-9);
  EXPECT_NEAR(value.paid_for_interval->second, 4.2 * judgement.findings.cases[0].improvement.interval->hi, 1e-9);
  EXPECT_TRUE(core::valueText(value, study.study).ends_with("so not worth it at this price"))
      << core::valueText(value, study.study);
}

TEST(Value, SaysWhetherItPaysOnlyWhereThatIsSettled) {
  const auto said = [](const core::Value& value) { return core::valueText(value, pricedStudy(1, 1).study); };
  EXPECT_TRUE(said(valueOf(400, 410, 8)).ends_with("so worth it at this price"));
  EXPECT_TRUE(said(valueOf(400, 500, 8)).ends_with("so not worth it at this price"));
  EXPECT_TRUE(said(valueOf(400, 400 + 4 * 8.02, 8)).ends_with("so whether it pays is not settled"));
  EXPECT_NE(said(valueOf(400, 410, -8)).find("Nothing more is paid for: not worth it"), std::string::npos);
  EXPECT_EQ(said(valueOf(400, 380, 8)), "6000 MT/s costs 20 EUR less than 4800 MT/s: worth it at this price");
  EXPECT_EQ(said(valueOf(400, 400, 8)), "6000 MT/s costs what 4800 MT/s does");
}

TEST(Value, OfACheaperLevelThatLosesIsWhatItSavesAgainstWhatItLoses) {
  const auto said = [](const core::Value& value) { return core::valueText(value, pricedStudy(1, 1).study); };
  const std::string worth = said(valueOf(400, 300, -8));
  EXPECT_TRUE(
      worth.starts_with("6000 MT/s costs 100 EUR less than 4800 MT/s. What it loses is worth 33 EUR (29 to 37)"))
      << worth;  // 400 EUR by 8.2 % (7.2 to 9.3)
  EXPECT_TRUE(worth.ends_with(" by the same measure, so worth it at this price")) << worth;
  EXPECT_TRUE(said(valueOf(400, 390, -8)).ends_with("so not worth it at this price"));
  EXPECT_TRUE(said(valueOf(400, 400 - 4 * 8.02, -8)).ends_with("so whether it pays is not settled"));
}

TEST(Value, OfWhatCostNothingHasNoPriceThatIsPaidFor) {
  const core::Value value = valueOf(0, 40, 8);
  EXPECT_FALSE(value.paid_for_up_to);
  EXPECT_TRUE(value.percent_for_each_100);
  EXPECT_TRUE(core::valueText(value, pricedStudy(0, 40).study).ends_with("for each 100 EUR"));
}

TEST(Value, IsSaidOfNothingWithoutBothPricesOrBeforeTheResultsAreOpen) {
  support::RecordedStudy one_price = pricedStudy(400, std::nullopt);
  one_price.recordRates({100, 108});
  EXPECT_TRUE(one_price.judged().value.empty());
  support::RecordedStudy sealed = pricedStudy(400, 420);
  sealed.recordRates({100, 108});
  sealed.study.plan.is_sealed = true;
  sealed.passes.pop_back();
  EXPECT_TRUE(sealed.judged().value.empty());
}

TEST(Value, IsRefusedInTwoCurrenciesAndBelowZero) {
  core::Study study = pricedStudy(400, 420).study;
  EXPECT_TRUE(core::priceProblems(study).empty());
  study.variable().levels[1].price->currency = "USD";
  ASSERT_EQ(core::priceProblems(study).size(), 1U);
  EXPECT_EQ(core::priceProblems(study)[0].what, "prices are in two currencies, EUR and USD");
  for (const double amount : {-1.0, std::nan(""), 1e13}) {
    study.variable().levels[1].price = core::Price{amount, "EUR"};
    EXPECT_EQ(core::priceProblems(study).size(), 1U) << amount;
  }
}

}  // namespace
