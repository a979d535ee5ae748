// Frames laid along an axis, as the screens draw them.
#include "core/frames/trace.h"

#include <gtest/gtest.h>

namespace {

// A frame longer than many parts of the axis is itself in each of them, not the mean of the part it began in.
TEST(Trace, DrawsAHitchAsLongAsItWas) {
  std::vector<double> frames(30, 10.0);
  frames.insert(frames.begin() + 25, 500.0);
  const auto positions = core::tracePositions(frames, core::TraceAxis::Seconds);
  const std::vector<double> drawn = core::meanByStretch(frames, positions, 0.8, 16);  // 50 ms each
  EXPECT_DOUBLE_EQ(drawn[0], 10);
  for (std::size_t part = 5; part < 15; ++part) EXPECT_DOUBLE_EQ(drawn[part], 500) << part;
  EXPECT_DOUBLE_EQ(drawn[15], 10);
}

}  // namespace
