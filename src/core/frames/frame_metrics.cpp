#include "core/frames/frame_metrics.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <string>

#include "core/frames/order_statistics.h"
#include "core/frames/stutter.h"

namespace core {
namespace {

// Rounding must never add a frame: 5.0000000001 frames are 5.
std::size_t ceilCount(double x) { return static_cast<std::size_t>(std::max(0.0, std::ceil(x - 1e-9))); }

Error badDuration(std::span<const double> frame_ms) {
  const auto bad =
      std::find_if_not(frame_ms.begin(), frame_ms.end(), [](double d) { return std::isfinite(d) && d > 0; });
  return {ErrorKind::OutOfRange, "a frame time must be a finite number above 0",
          "frame " + std::to_string(bad - frame_ms.begin() + 1),
          "Repair or leave out the log; no frame is dropped in silence"};
}

Low percentileLow(const OrderStatistics& order, std::size_t frames, double percent) {
  const double q = 1.0 - percent / 100.0;
  return {1000.0 / order.quantile(q), frames - ceilCount((static_cast<double>(frames) - 1) * q)};
}

std::size_t slowestFrames(std::size_t frames, double percent) {
  return std::max<std::size_t>(1, ceilCount(static_cast<double>(frames) * percent / 100.0));
}

// Time that the slowest frames are to fill; relative slack for sums.
double timeToFill(double total_ms, double percent) { return percent / 100.0 * total_ms * (1 - 1e-12); }

Lows lowsOf(const OrderStatistics& order, const FrameMetrics& metrics, double percent) {
  const std::size_t slowest = slowestFrames(metrics.frames, percent);
  const std::size_t filling = order.largestFilling(timeToFill(metrics.total_ms, percent));
  return {percent,
          percentileLow(order, metrics.frames, percent),
          {1000.0 * static_cast<double>(slowest) / order.sumOfLargest(slowest), slowest},
          {1000.0 / order.at(metrics.frames - filling), filling}};
}

// The sums of the frames and of the steps between them. Each addition waits for the one before it: four lanes side by
// side wait no longer than one.
struct Sums {
  static constexpr std::size_t kLanes = 4;
  std::array<double, kLanes> frames_ms{};
  std::array<double, kLanes> steps_ms{};

  explicit Sums(std::span<const double> frame_ms) {
    frames_ms[0] = frame_ms[0];
    std::size_t i = 1;
    for (; i + kLanes <= frame_ms.size(); i += kLanes) {
#pragma GCC unroll 4
      for (std::size_t lane = 0; lane < kLanes; ++lane) add(lane, frame_ms[i + lane - 1], frame_ms[i + lane]);
    }
    for (; i < frame_ms.size(); ++i) add(0, frame_ms[i - 1], frame_ms[i]);
  }
  void add(std::size_t lane, double before, double frame) {
    frames_ms[lane] += frame;
    steps_ms[lane] += std::abs(frame - before);
  }
};

double together(const std::array<double, Sums::kLanes>& lanes) {
  return std::accumulate(lanes.begin(), lanes.end(), 0.0);
}

void fillMeans(FrameMetrics& metrics, std::span<const double> frame_ms) {
  const Sums sums(frame_ms);
  const auto frames = static_cast<double>(frame_ms.size());
  metrics.frames = frame_ms.size();
  metrics.total_ms = together(sums.frames_ms);
  metrics.average_fps = 1000.0 * frames / metrics.total_ms;
  metrics.mean_frame_ms = metrics.total_ms / frames;
  if (metrics.frames > 1) metrics.jitter_ms = together(sums.steps_ms) / (frames - 1);
}

void fillStutters(FrameMetrics& metrics, std::span<const double> frame_ms, double median_ms) {
  metrics.stutter_frames = stutterFrames(frame_ms);
  double stutter_ms = 0;
  for (const std::size_t i : metrics.stutter_frames) stutter_ms += frame_ms[i];
  metrics.stutters_per_minute = static_cast<double>(metrics.stutter_frames.size()) / (metrics.total_ms / 60000.0);
  metrics.stutter_time_share = stutter_ms / metrics.total_ms;
  metrics.stalls = stallsOf(frame_ms, median_ms);
  for (const Stall& stall : metrics.stalls) metrics.stall_total_ms += stall.total_ms;
}

void fillLongFrames(FrameMetrics& metrics, std::span<const double> frame_ms) {
  std::array<std::size_t, kLongFrameMs.size()> longer{};
  for (const double frame : frame_ms) {
    metrics.long_frames.longest_ms = std::max(metrics.long_frames.longest_ms, frame);
    for (std::size_t i = 0; i < longer.size() && frame > kLongFrameMs[i]; ++i) ++longer[i];
  }
  for (std::size_t i = 0; i < longer.size(); ++i)
    metrics.long_frames.per_minute[i] = static_cast<double>(longer[i]) / (metrics.total_ms / 60000.0);
}

}  // namespace

double quantileOfSorted(std::span<const double> ascending, double q) {
  const double h = static_cast<double>(ascending.size() - 1) * q;
  const auto below = static_cast<std::size_t>(std::floor(h));
  if (below + 1 >= ascending.size()) return ascending.back();
  return ascending[below] + (h - static_cast<double>(below)) * (ascending[below + 1] - ascending[below]);
}

double timeBelowTarget(std::span<const double> frame_ms, double target_fps) {
  const double limit_ms = 1000.0 / target_fps;
  double below_ms = 0;
  double total_ms = 0;
  for (const double d : frame_ms) {
    total_ms += d;
    if (d > limit_ms) below_ms += d;
  }
  return total_ms > 0 ? below_ms / total_ms : 0;
}

double framesHolding(std::span<const double> frame_ms, double target_fps) {
  const double limit_ms = 1000.0 / target_fps;
  const auto holding = std::count_if(frame_ms.begin(), frame_ms.end(), [&](double d) { return d <= limit_ms; });
  return frame_ms.empty() ? 0 : static_cast<double>(holding) / static_cast<double>(frame_ms.size());
}

std::vector<double> framesWithin(std::span<const double> frame_ms, double from_ms, double until_ms) {
  constexpr double kSameMomentMs = 1e-6;
  std::vector<double> kept;
  double start_ms = 0;
  for (const double d : frame_ms) {
    if (start_ms >= from_ms - kSameMomentMs && start_ms + d <= until_ms + kSameMomentMs) kept.push_back(d);
    start_ms += d;
  }
  return kept;
}

Result<std::vector<double>> trimFrames(std::span<const double> frame_ms, double first_s, double last_s) {
  if (!(first_s >= 0) || !(last_s >= 0))
    return Error{ErrorKind::OutOfRange, "seconds to trim must be 0 or more", "trim", "Enter 0 to keep all frames"};
  const double total_ms = std::accumulate(frame_ms.begin(), frame_ms.end(), 0.0);
  std::vector<double> kept = framesWithin(frame_ms, first_s * 1000.0, total_ms - last_s * 1000.0);
  if (kept.empty())
    return Error{ErrorKind::TooFew, "no frame is left after trimming", "trim", "Leave out fewer seconds or run longer"};
  return kept;
}

Result<FrameMetrics> frameMetrics(std::span<const double> frame_ms, std::span<const double> low_percents) {
  if (frame_ms.empty())
    return Error{ErrorKind::TooFew, "the pass has no frames", "", "Check that the workload wrote its frame log"};
  const Extremes extremes = extremesOf(frame_ms);
  if (!extremes.arePositive()) return badDuration(frame_ms);
  FrameMetrics metrics;
  fillMeans(metrics, frame_ms);

  OrderStatistics order(frame_ms, extremes);
  order.wantQuantile(0.5);
  for (const double percent : low_percents) {
    order.wantQuantile(1.0 - percent / 100.0);
    order.wantLargest(slowestFrames(metrics.frames, percent));
    order.wantFilling(timeToFill(metrics.total_ms, percent));
  }
  order.collect();
  for (const double percent : low_percents) metrics.lows.push_back(lowsOf(order, metrics, percent));
  metrics.median_frame_ms = order.quantile(0.5);
  fillStutters(metrics, frame_ms, metrics.median_frame_ms);
  fillLongFrames(metrics, frame_ms);
  return metrics;
}

}  // namespace core
