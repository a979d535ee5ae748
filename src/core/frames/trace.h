#pragma once

#include <span>
#include <string>
#include <vector>

#include "core/values/result.h"

namespace core {

/// Along what frames of two passes are laid over each other: the clock, or their place in the scene. A scene that
/// always takes the same time is followed by its time; one that always draws the same frames by its frames.
enum class TraceAxis { Seconds, ShareOfTime, ShareOfFrames };

/// Where each frame begins on an axis: seconds, or percent of the pass. Rising.
/// Shapes  one position a frame, the first is 0
[[nodiscard]] std::vector<double> tracePositions(std::span<const double> frame_ms, TraceAxis axis);

/// Mean frame time of each of `stretches` equal parts of an axis range [0, end): time over frames. A part without a
/// frame takes the frame that spans it. Shapes  `positions` as tracePositions; `end` > 0
[[nodiscard]] std::vector<double> meanByStretch(std::span<const double> frame_ms, std::span<const double> positions,
                                                double end, int stretches);

/// How often frames of each length occur, between two lengths, in bins of equal ratio.
struct FrameDistribution {
  std::vector<double> from_ms;  ///< where each bin begins
  std::vector<double> share;    ///< of the frames, fractions of 1; what lies outside is in the first and the last bin
};
/// Shapes  0 < lo_ms < hi_ms; bins >= 1
[[nodiscard]] FrameDistribution distributionOf(std::span<const double> frame_ms, double lo_ms, double hi_ms, int bins);

}  // namespace core
