// Quantiles and sums without sorting, against sorting.
#include "core/frames/order_statistics.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numeric>
#include <random>

#include "core/frames/frame_metrics.h"

namespace {

class Orders : public testing::TestWithParam<int> {
 protected:
  // Ordinary frames, all alike, two lengths only, or from a millionth to a million.
  std::vector<double> values(std::size_t count) const {
    std::mt19937_64 random(static_cast<std::uint64_t>(GetParam()) * 1000 + count);
    std::lognormal_distribution<double> frames(2.5, 0.3);
    std::uniform_real_distribution<double> exponent(-6, 6);
    std::vector<double> drawn;
    for (std::size_t i = 0; i < count; ++i)
      drawn.push_back(GetParam() == 0   ? frames(random)
                      : GetParam() == 1 ? 16.667
                      : GetParam() == 2 ? (random() % 2 == 0 ? 8.3 : 16.6)
                                        : std::pow(10.0, exponent(random)));
    return drawn;
  }
};

TEST_P(Orders, AreThoseOfASortedSeries) {
  for (const std::size_t count : {1U, 2U, 3U, 10U, 1000U, 5001U}) {
    const std::vector<double> drawn = values(count);
    std::vector<double> sorted = drawn;
    std::sort(sorted.begin(), sorted.end());
    const double total = std::accumulate(sorted.begin(), sorted.end(), 0.0);
    core::OrderStatistics order(drawn, core::extremesOf(drawn));
    for (const double q : {0.0, 0.01, 0.5, 0.99, 0.999, 1.0}) order.wantQuantile(q);
    const std::size_t largest = std::max<std::size_t>(1, count / 100);
    order.wantLargest(largest);
    for (const double share : {0.001, 0.01, 0.5, 1.0}) order.wantFilling(share * total);
    order.collect();
    for (const double q : {0.0, 0.01, 0.5, 0.99, 0.999, 1.0})
      EXPECT_DOUBLE_EQ(order.quantile(q), core::quantileOfSorted(sorted, q)) << count << " at " << q;
    const double sum = std::accumulate(sorted.rbegin(), sorted.rbegin() + static_cast<std::ptrdiff_t>(largest), 0.0);
    EXPECT_NEAR(order.sumOfLargest(largest), sum, 1e-9 * sum);
    for (const double share : {0.001, 0.01, 0.5}) {
      double reached = 0;
      std::size_t needed = 0;
      while (needed < count && reached < share * total) reached += sorted[count - ++needed];
      EXPECT_EQ(order.largestFilling(share * total), std::max<std::size_t>(1, needed)) << count << " for " << share;
    }
  }
}

INSTANTIATE_TEST_SUITE_P(Series, Orders, testing::Range(0, 4));

TEST(Extremes, AreThoseOfPositiveNumbersAndSayWhereOthersStand) {
  const auto of = [](std::vector<double> values) { return core::extremesOf(values); };
  EXPECT_EQ(of({3, 1e-300, 7e300}).lowest, 1e-300);
  EXPECT_EQ(of({3, 1e-300, 7e300}).highest, 7e300);
  EXPECT_TRUE(of({3, 1e-300, 7e300}).arePositive());
  for (const double bad : {0.0, -0.0, -1.0, std::nan(""), -std::nan(""), HUGE_VAL, -HUGE_VAL})
    for (const auto& values : {std::vector{bad}, std::vector{bad, 5.0}, std::vector{5.0, bad, 6.0}})
      EXPECT_FALSE(of(values).arePositive()) << bad;
}

}  // namespace
