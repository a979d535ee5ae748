#include "core/stutter.h"

#include <algorithm>

namespace core {
namespace {

constexpr double kSlowFactor = 2.5;
constexpr double kWindowMs = 1000.0;
constexpr std::size_t kWindowFrames = 15;
constexpr double kStallMs = 100.0;
constexpr double kSameMomentMs = 1e-6;

std::vector<double> startsOf(std::span<const double> frame_ms) {
  std::vector<double> starts(frame_ms.size());
  double start_ms = 0;
  for (std::size_t i = 0; i < frame_ms.size(); ++i) {
    starts[i] = start_ms;
    start_ms += frame_ms[i];
  }
  return starts;
}

double medianOf(std::span<const double> values) {
  std::vector<double> copy(values.begin(), values.end());
  const auto middle = copy.begin() + static_cast<std::ptrdiff_t>(copy.size() / 2);
  std::nth_element(copy.begin(), middle, copy.end());
  return copy.size() % 2 == 1 ? *middle : (*middle + *std::max_element(copy.begin(), middle)) / 2;
}

}  // namespace

std::vector<std::size_t> stutterFrames(std::span<const double> frame_ms) {
  const std::vector<double> starts = startsOf(frame_ms);
  const std::size_t n = frame_ms.size();
  if (n == 0) return {};
  // No median lies below the shortest frame, so most frames are cleared without looking at their window.
  const double surely_fine_ms = kSlowFactor * *std::min_element(frame_ms.begin(), frame_ms.end());
  std::vector<std::size_t> found;
  std::size_t begin = 0;  // first frame in the window
  std::size_t end = 0;    // one behind the last
  for (std::size_t i = 0; i < n; ++i) {
    // Both ends only move forward: starts grow, and so do i - 15 and i + 15.
    while (end < n && (end <= i + kWindowFrames || starts[end] - starts[i] <= kWindowMs + kSameMomentMs)) ++end;
    while (begin + kWindowFrames < i && starts[i] - starts[begin] > kWindowMs + kSameMomentMs) ++begin;
    if (frame_ms[i] > surely_fine_ms && frame_ms[i] > kSlowFactor * medianOf(frame_ms.subspan(begin, end - begin)))
      found.push_back(i);
  }
  return found;
}

std::vector<Stall> stallsOf(std::span<const double> frame_ms, double median_ms) {
  std::vector<Stall> stalls;
  Stall run;
  const auto close = [&] {
    if (run.frames > 0 && run.total_ms >= kStallMs * (1 - 1e-12)) stalls.push_back(run);
    run = {};
  };
  for (std::size_t i = 0; i < frame_ms.size(); ++i) {
    if (frame_ms[i] > kSlowFactor * median_ms) {
      if (run.frames == 0) run.first_frame = i;
      ++run.frames;
      run.total_ms += frame_ms[i];
    } else {
      close();
    }
  }
  close();
  return stalls;
}

}  // namespace core
