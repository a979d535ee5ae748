#pragma once

#include <array>
#include <cstddef>
#include <span>
#include <vector>

#include "core/values/result.h"

namespace core {

/// The frames that lie whole within a stretch of their pass; moments closer than 1e-6 ms are one.
[[nodiscard]] std::vector<double> framesWithin(std::span<const double> frame_ms, double from_ms, double until_ms);

/// The frames of one pass that count after trimming; the others stay in storage.
/// A frame starts at the sum of the durations before it. Kept are frames that start at or after `first_s` and
/// end at or before `last_s` from the end.
/// Shapes  frame_ms: one duration a frame, in order; first_s, last_s >= 0, seconds
/// Errors  OutOfRange where a trim is negative, TooFew where nothing is left
[[nodiscard]] Result<std::vector<double>> trimFrames(std::span<const double> frame_ms, double first_s, double last_s);

/// A low says how fast the slow frames were. The three ways answer different questions, none is wrong.
struct Low {
  double fps = 0;
  std::size_t frames = 0;  ///< how many frames it rests on
  [[nodiscard]] bool isThin() const { return frames < 10; }
};
struct Lows {
  double percent = 1;  ///< the x of "x % low"
  Low percentile;      ///< 1000 / quantile(1 - x/100)
  Low slowest_mean;    ///< rate over the slowest x % of the frames
  Low time_share;      ///< frame time at which the slowest frames have filled x % of the time
};

/// A frame longer than 2.5 medians of its surroundings; a stall is a run of frames, each longer than 2.5 medians
/// of the pass, that together last 100 ms or more. Frame numbers count from 0 here.
struct Stall {
  std::size_t first_frame = 0;
  std::size_t frames = 0;
  double total_ms = 0;
};

/// A stutter is told against the median, so a level that is faster counts more of the same hitches; these lengths are
/// the same at every level.
inline constexpr std::array kLongFrameMs{25.0, 50.0, 100.0};
struct LongFrames {
  std::array<double, kLongFrameMs.size()> per_minute{};  ///< longer than each of kLongFrameMs
  double longest_ms = 0;
};

/// Everything that the frame times of one pass say. Times in ms, rates in frames per second, shares as fractions of 1.
struct FrameMetrics {
  std::size_t frames = 0;
  double total_ms = 0;
  double average_fps = 0;  ///< frames over time, not the mean of 1000/d
  double mean_frame_ms = 0;
  double median_frame_ms = 0;
  double jitter_ms = 0;    ///< mean step from frame to frame
  std::vector<Lows> lows;  ///< in the order asked for
  std::vector<std::size_t> stutter_frames;
  double stutters_per_minute = 0;
  double stutter_time_share = 0;
  LongFrames long_frames;
  std::vector<Stall> stalls;
  double stall_total_ms = 0;
  [[nodiscard]] bool hasTooFewFrames() const { return frames < 500; }
};

/// Computes all metrics of one pass.
/// Shapes  frame_ms: n >= 1 durations; low_percents: each in (0, 100]
/// Errors  TooFew for an empty series, OutOfRange{position} for a duration that is not finite and positive
/// Cost    O(n) time for all but logs of one and the same duration; one copy of the series
[[nodiscard]] Result<FrameMetrics> frameMetrics(std::span<const double> frame_ms, std::span<const double> low_percents);

/// Quantile q in [0, 1] of ascending values by linear interpolation at h = (n - 1) q ("type 7", Hyndman & Fan 1996).
[[nodiscard]] double quantileOfSorted(std::span<const double> ascending, double q);

/// Share of the time spent in frames longer than 1000/target_fps. A frame exactly at the target does not count.
[[nodiscard]] double timeBelowTarget(std::span<const double> frame_ms, double target_fps);

/// Share of the frames that are no longer than 1000/target_fps.
[[nodiscard]] double framesHolding(std::span<const double> frame_ms, double target_fps);

}  // namespace core
