#include "core/frames/stutter.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cstdint>

#include "core/frames/order_statistics.h"
#include "core/values/median.h"

namespace core {
namespace {

constexpr double kSlowFactor = 2.5;
constexpr double kWindowMs = 1000.0;
constexpr std::size_t kWindowFrames = 15;
constexpr double kStallMs = 100.0;
constexpr double kSameMomentMs = 1e-6;

// A frame of a series, and when it starts.
struct Place {
  std::size_t frame = 0;
  double start_ms = 0;
  void goOn(std::span<const double> frame_ms) { start_ms += frame_ms[frame++]; }
};

// Positive numbers by size, four levels to the doubling, from the smallest of a series on; the last takes all beyond.
class Levels {
 public:
  static constexpr std::size_t kCount = 64;
  explicit Levels(std::span<const double> values) : lowest_(extremesOf(values).lowest), first_(bitsOf(lowest_)) {}
  [[nodiscard]] double lowest() const { return lowest_; }
  /// Of a value not below the lowest.
  [[nodiscard]] std::size_t of(double value) const {
    return static_cast<std::size_t>(std::min<std::uint64_t>(bitsOf(value) - first_, kCount - 1));
  }

 private:
  // Exponent and the first two bits of the fraction.
  static std::uint64_t bitsOf(double value) { return std::bit_cast<std::uint64_t>(value) >> 50; }
  double lowest_;
  std::uint64_t first_;
};

}  // namespace

std::vector<std::size_t> stutterFrames(std::span<const double> frame_ms) {
  const std::size_t n = frame_ms.size();
  if (n == 0) return {};
  const Levels levels(frame_ms);
  std::array<std::uint32_t, Levels::kCount> in_window{};  // frames of each level
  std::vector<std::size_t> found;
  Place begin;  // first frame in the window
  Place end;    // one behind the last
  for (Place at; at.frame < n; at.goOn(frame_ms)) {
    const std::size_t i = at.frame;
    // Both ends only move forward: starts grow, and so do i - 15 and i + 15.
    while (end.frame < n &&
           (end.frame <= i + kWindowFrames || end.start_ms - at.start_ms <= kWindowMs + kSameMomentMs)) {
      ++in_window[levels.of(frame_ms[end.frame])];
      end.goOn(frame_ms);
    }
    while (begin.frame + kWindowFrames < i && at.start_ms - begin.start_ms > kWindowMs + kSameMomentMs) {
      --in_window[levels.of(frame_ms[begin.frame])];
      begin.goOn(frame_ms);
    }
    // Where at most half of the window lies at or below the level of a 2.5th of this frame, the median lies above it:
    // most frames are cleared without looking for the median itself.
    const double least_median = frame_ms[i] / kSlowFactor * (1 + 1e-12);
    if (least_median < levels.lowest()) continue;
    const std::size_t level = levels.of(least_median);
    std::uint32_t low = 0;
    for (std::size_t l = 0; l <= level; ++l) low += in_window[l];
    if (low <= (end.frame - begin.frame - 1) / 2) continue;
    if (frame_ms[i] > kSlowFactor * medianOf({frame_ms.begin() + static_cast<std::ptrdiff_t>(begin.frame),
                                              frame_ms.begin() + static_cast<std::ptrdiff_t>(end.frame)}))
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
