// How numbers are written.
#include "core/estimate/wording.h"

#include <limits>

#include <gtest/gtest.h>

#include "core/values/result.h"

namespace {

TEST(Wording, ShowsNoMoreThanTheNumbersSay) {
  EXPECT_EQ(core::percentText(4.04), "+4.0 %");
  EXPECT_EQ(core::percentText(-0.421), "\u22120.42 %");
  EXPECT_EQ(core::percentText(-0.001), "0.00 %");
  EXPECT_EQ(core::changeText({0.5, core::PercentInterval{-0.001, 1.5}}), "+0.50 % (0.00 to 1.50)");
  EXPECT_EQ(core::valueText(12.4123, "s"), "12.41 s");
  EXPECT_EQ(core::valueText(71.26, "FPS"), "71.3 FPS");
}

TEST(Wording, SaysATimeInTheUnitsThatAPersonWouldTake) {
  EXPECT_EQ(core::durationText(89), "89 s");
  EXPECT_EQ(core::durationText(90), "2 min");
  EXPECT_EQ(core::durationText(3569), "59 min");
  EXPECT_EQ(core::durationText(3570), "1 h");
  EXPECT_EQ(core::durationText(4800), "1 h 20 min");
  EXPECT_EQ(core::durationText(2 * 3600), "2 h");
}

TEST(Wording, AnErrorSaysWhereWhatAndWhatToDo) {
  const core::Error error{core::ErrorKind::TooFew, "the log is empty", "frames.csv, line 1", "Run longer"};
  EXPECT_EQ(error.sentence(), "frames.csv, line 1: the log is empty. Run longer.");
}

TEST(Wording, SaysNoZeroOfADifferenceThatIsNone) {
  EXPECT_EQ(core::differenceText(-0.78, "ms"), "−0.78 ms");
  EXPECT_EQ(core::differenceText(0.004, "ms"), "+0.0040 ms");
  EXPECT_EQ(core::differenceText(-0.0000042, "dB"), "−0.0000042 dB");
  EXPECT_EQ(core::differenceText(0.00996, "FPS"), "+0.01 FPS");
  EXPECT_EQ(core::differenceText(0, "ms"), "0.00 ms");
  EXPECT_EQ(core::unitChangeText({0.004, {{0.001, 0.007}}}, "ms"), "+0.0040 ms (0.0010 to 0.0070)");
}

TEST(Wording, SaysEndsThatAreNoNumberAsWhatTheyAre) {
  constexpr double kEndless = std::numeric_limits<double>::infinity();
  EXPECT_EQ(core::changeText({-3, {{-kEndless, kEndless}}}), "−3.0 % (−∞ to ∞)");
}

}  // namespace
