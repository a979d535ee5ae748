#include "core/record/bench_clock.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace {

using core::BenchClock;
using core::ClockDifference;
using ::testing::HasSubstr;

constexpr std::int64_t kHour_ms = 3'600'000;

TEST(Clocks, AreComparedInWords) {
  EXPECT_EQ((ClockDifference{0.4, 2}).text(), "the same as this computer's, within 2 ms");
  EXPECT_EQ((ClockDifference{3'600'000, 2.2}).text(), "3600 s ahead of this computer's, within 3 ms");
  EXPECT_EQ((ClockDifference{-120, 1}).text(), "120 ms behind this computer's, within 1 ms");
  EXPECT_EQ((ClockDifference{-120, 1}).remedy(), "");
  EXPECT_THAT((ClockDifference{-3'600'000, 1}).remedy(), HasSubstr("timedatectl"));
}

TEST(Clocks, PlaceAMomentByTheNearestComparison) {
  BenchClock clock;
  EXPECT_EQ(clock.atDesk(1234), 1234);
  EXPECT_FALSE(clock.isCompared());
  clock.add(10 * kHour_ms, {3'600'000, 2});  // an hour ahead as the sheet began
  EXPECT_EQ(clock.atDesk(11 * kHour_ms), 10 * kHour_ms);
  clock.add(12 * kHour_ms, {250, 2});  // set right in between
  EXPECT_EQ(clock.atDesk(11 * kHour_ms + 5000), 10 * kHour_ms + 5000);
  EXPECT_EQ(clock.atDesk(12 * kHour_ms), 12 * kHour_ms - 250);
}

TEST(Clocks, TellADriftFromAJump) {
  BenchClock clock;
  clock.add(0, {10, 1});
  clock.add(2 * kHour_ms, {130, 1});
  clock.add(3 * kHour_ms, {-3'600'000, 1});
  EXPECT_EQ(clock.sentence(0), "10 ms ahead of this computer's, within 1 ms");
  EXPECT_THAT(clock.sentence(1), HasSubstr("; since they were first compared it went off by 120 ms in 2.00 h"));
  EXPECT_THAT(clock.sentence(2), HasSubstr("; it was set, or jumped, by 3600 s since they were compared before"));
}

}  // namespace
