#include "core/frames/frame_metrics.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "core/frames/stutter.h"

namespace {

std::vector<double> frames(std::uint64_t seed, std::size_t n) {
  std::mt19937_64 engine(seed);
  std::lognormal_distribution<double> usual(2.5, 0.2);
  std::uniform_real_distribution<double> chance(0, 1);
  std::vector<double> d(n);
  for (double& one : d) one = usual(engine) * (chance(engine) < 0.02 ? 4 : 1);
  return d;
}

// The definition, word for word: every window gathered anew, its median by sorting.
std::vector<std::size_t> stuttersBySorting(const std::vector<double>& d) {
  std::vector<double> start(d.size(), 0);
  for (std::size_t i = 1; i < d.size(); ++i) start[i] = start[i - 1] + d[i - 1];
  std::vector<std::size_t> found;
  for (std::size_t i = 0; i < d.size(); ++i) {
    std::vector<double> window;
    for (std::size_t j = 0; j < d.size(); ++j)
      if ((j + 15 >= i && j <= i + 15) || std::abs(start[j] - start[i]) <= 1000 + 1e-6) window.push_back(d[j]);
    std::sort(window.begin(), window.end());
    const double median = window.size() % 2 == 1 ? window[window.size() / 2]
                                                 : (window[window.size() / 2 - 1] + window[window.size() / 2]) / 2;
    if (d[i] > 2.5 * median) found.push_back(i);
  }
  return found;
}

TEST(Stutters, AgreeWithTheDefinitionOnRandomSeries) {
  for (const std::size_t n : {1U, 2U, 40U, 700U}) {
    const auto d = frames(n, n);
    EXPECT_EQ(core::stutterFrames(d), stuttersBySorting(d)) << n << " frames";
  }
}

// Whole tens and thirds of milliseconds: windows often end exactly a second away, and each frame more or less moves a
// median that lies between two values. Where the starts are sums of fractions, the same moment is missed by a rounding.
TEST(Stutters, CountTheFramesThatLieExactlyASecondAway) {
  for (std::uint64_t seed = 1; seed < 12; ++seed)
    for (const double unit : {10.0, 10.1, 100.0 / 3}) {
      std::mt19937_64 engine(seed);
      std::vector<double> d(600);
      for (double& one : d) one = unit * (engine() % 2 == 0 ? 1 : 3);
      const auto found = core::stutterFrames(d);
      EXPECT_EQ(found, stuttersBySorting(d)) << "seed " << seed << ", " << unit << " ms";
      EXPECT_TRUE(!found.empty() && found.size() < 500) << "else nothing hangs on the edge";
    }
}

TEST(Stalls, AreRunsOfSlowFramesOfATenthOfASecond) {
  const auto stallsIn = [](const std::vector<double>& d) { return core::stallsOf(d, 10); };
  EXPECT_TRUE(stallsIn({10, 99.9, 10}).empty());
  const auto one = stallsIn({10, 10, 100, 10});
  ASSERT_EQ(one.size(), 1U);
  EXPECT_EQ(one[0].first_frame, 2U);
  EXPECT_EQ(one[0].frames, 1U);
  EXPECT_DOUBLE_EQ(one[0].total_ms, 100);
  // Slow is beyond two and a half times the middle; two runs are two, and one may end with the log.
  EXPECT_TRUE(stallsIn({10, 25, 25, 25, 25, 10}).empty());
  const auto two = stallsIn({10, 30, 30, 30, 30, 10, 10, 60, 60});
  ASSERT_EQ(two.size(), 2U);
  EXPECT_EQ(two[0].frames, 4U);
  EXPECT_EQ(two[1].first_frame, 7U);
  EXPECT_DOUBLE_EQ(two[1].total_ms, 120);
}

TEST(FrameMetrics, ScaleWithTheUnitOfTime) {
  const auto d = frames(7, 900);
  std::vector<double> doubled = d;
  for (double& one : doubled) one *= 2;
  const double percents[] = {1.0};
  const auto once = core::frameMetrics(d, percents);
  const auto twice = core::frameMetrics(doubled, percents);
  ASSERT_TRUE(once.ok() && twice.ok());
  EXPECT_DOUBLE_EQ(once->average_fps, 2 * twice->average_fps);
  EXPECT_NEAR(once->lows[0].percentile.fps, 2 * twice->lows[0].percentile.fps, 1e-9);
  EXPECT_NEAR(once->lows[0].slowest_mean.fps, 2 * twice->lows[0].slowest_mean.fps, 1e-9);
}

TEST(FrameMetrics, LowsNeverLieAboveTheAverage) {
  const double percents[] = {1.0, 0.1};
  for (std::uint64_t seed = 1; seed < 20; ++seed) {
    const auto metrics = core::frameMetrics(frames(seed, 300), percents);
    ASSERT_TRUE(metrics.ok());
    for (const core::Lows& lows : metrics->lows) {
      EXPECT_LE(lows.slowest_mean.fps, metrics->average_fps);
      EXPECT_LE(lows.percentile.fps, metrics->average_fps);
    }
  }
}

TEST(FrameMetrics, RefuseFramesThatAreNoDurations) {
  const double percents[] = {1.0};
  for (const double bad : {0.0, -1.0, std::nan(""), static_cast<double>(INFINITY)}) {
    const double d[] = {16.0, bad};
    const auto metrics = core::frameMetrics(d, percents);
    ASSERT_FALSE(metrics.ok());
    EXPECT_EQ(metrics.error().kind, core::ErrorKind::OutOfRange);
    EXPECT_EQ(metrics.error().where, "frame 2");
  }
  EXPECT_EQ(core::frameMetrics({}, percents).error().kind, core::ErrorKind::TooFew);
}

// The same hitches on a level that is twice as fast: more of them are stutters, as many are long.
TEST(FrameMetrics, LongFramesAreTheSameAtEveryMedian) {
  const double percents[] = {1.0};
  const auto with_hitches = [&](double frame_ms) {
    std::vector<double> d;
    for (double t = 0; t < 60000;) {
      const bool is_hitch = d.size() % 40 == 39;
      d.push_back(is_hitch ? 27 : frame_ms);
      t += d.back();
    }
    d.push_back(25.0);  // exactly so long is not longer
    d.push_back(130);
    return *core::frameMetrics(d, percents);
  };
  const core::FrameMetrics slow = with_hitches(16);
  const core::FrameMetrics fast = with_hitches(8);
  EXPECT_EQ(slow.stutter_frames.size(), 1U);
  EXPECT_GT(fast.stutter_frames.size(), 100U);
  EXPECT_EQ(slow.long_frames.longest_ms, 130);
  EXPECT_NEAR(slow.long_frames.per_minute[0], 60000 / slow.total_ms * (static_cast<double>(slow.frames - 2) / 40 + 1),
              1.1);
  EXPECT_NEAR(fast.long_frames.per_minute[1], 60000 / fast.total_ms, 1e-9);
  EXPECT_EQ(fast.long_frames.per_minute[1], fast.long_frames.per_minute[2]);
}

TEST(Trim, RefusesToLeaveNothing) {
  const double d[] = {10.0, 10.0};
  EXPECT_EQ(core::trimFrames(d, 1, 0).error().kind, core::ErrorKind::TooFew);
  EXPECT_EQ(core::trimFrames(d, -1, 0).error().kind, core::ErrorKind::OutOfRange);
}

}  // namespace
