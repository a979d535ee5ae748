#pragma once

#include <cstddef>
#include <span>
#include <vector>

#include "core/frames/frame_metrics.h"

namespace core {

/// Frames longer than 2.5 times the median of their window: the 15 frames on either side and all frames that start
/// within 1000 ms before or after their own start (1000 itself included), clipped at the ends.
/// Shapes  frame_ms: valid durations in order, ms; the result holds positions from 0, ascending
/// Cost    O(n) where few frames are near or above 2.5 medians; O(n w) at worst, w the frames in a window
[[nodiscard]] std::vector<std::size_t> stutterFrames(std::span<const double> frame_ms);

/// Maximal runs of frames each above 2.5 medians of the pass that together last at least 100 ms. One frame may do.
[[nodiscard]] std::vector<Stall> stallsOf(std::span<const double> frame_ms, double median_ms);

}  // namespace core
