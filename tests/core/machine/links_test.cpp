#include "core/machine/links.h"

#include <gtest/gtest.h>

#include "core/machine/memory_layout.h"

namespace {

using core::LinkGrade;

// Half a unit of the third decimal, as the worked figures are given.
constexpr double kGiven = 5e-4;

TEST(Links, CarryWhatTheirEncodingLeaves) {
  EXPECT_NEAR(core::encodedGbps({16, 16}), 252.062, kGiven);
  EXPECT_NEAR(core::encodedGBps({16, 16}), 31.508, kGiven);
  EXPECT_NEAR(core::encodedGbps({8, 4}), 31.508, kGiven);
  EXPECT_NEAR(core::encodedGbps({5, 8}), 32.0, kGiven);
  EXPECT_NEAR(core::encodedGbps({32, 2}), 63.015, kGiven);
  EXPECT_NEAR(core::encodedGbps({64, 4}), 256.0, kGiven);
  EXPECT_NEAR(core::encodedGBps({2.5, 1}), 0.25, kGiven);
}

TEST(Links, OneGenerationUpIsHalfTheLanesFromGen3On) {
  EXPECT_DOUBLE_EQ(core::encodedGBps({8, 16}), core::encodedGBps({16, 8}));
  EXPECT_NE(core::encodedGBps({5, 16}), core::encodedGBps({8, 8}));  // the encoding changed between Gen 2 and Gen 3
}

TEST(Links, AreWrittenWithTheirUnit) {
  EXPECT_EQ(core::linkText({16, 16}), "Gen 4 x16, 31.5 GB/s");
  EXPECT_EQ(core::linkText({0, 0}), "x0: no link");
  EXPECT_FALSE(core::pcieGeneration(7));
}

TEST(Links, CopiesLandBelowTheRate) {
  const auto band = core::plausibleCopy({16, 16});
  ASSERT_TRUE(band);
  EXPECT_NEAR(band->lo_GBps, 25.2, 0.05);
  EXPECT_NEAR(band->hi_GBps, 28.4, 0.05);
  EXPECT_FALSE(core::plausibleCopy({64, 16}));  // few measurements: no band
  EXPECT_NEAR(core::payloadFactor(256, 24), 0.914, kGiven);
  EXPECT_NEAR(core::payloadFactor(128, 20), 0.865, kGiven);
}

TEST(Memory, PeakFollowsRateAndWidth) {
  EXPECT_NEAR(core::memoryPeakGBps(6000, 128), 96.0, 1e-9);
  EXPECT_NEAR(core::memoryPeakGBps(4800, 128), 76.8, 1e-9);
  EXPECT_NEAR(core::memoryPeakGBps(4266, 128), 68.3, 0.05);
  EXPECT_NEAR(core::plausibleMemoryRead(96).lo_GBps, 67.2, 1e-9);
  // A rate without a width tells of no peak: nothing is then more than can be.
  core::MemoryLayout layout;
  layout.mts = 6000;
  EXPECT_FALSE(layout.peakGBps());
  layout.bus_bits = 128;
  EXPECT_NEAR(*layout.peakGBps(), 96.0, 1e-9);
}

}  // namespace
