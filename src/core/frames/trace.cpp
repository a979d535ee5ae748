#include "core/frames/trace.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace core {

std::vector<double> tracePositions(std::span<const double> frame_ms, TraceAxis axis) {
  std::vector<double> positions;
  positions.reserve(frame_ms.size());
  const double total = std::accumulate(frame_ms.begin(), frame_ms.end(), 0.0);
  double at = 0;
  for (std::size_t i = 0; i < frame_ms.size(); ++i) {
    switch (axis) {
      case TraceAxis::Seconds: positions.push_back(at / 1000); break;
      case TraceAxis::ShareOfTime: positions.push_back(100 * at / total); break;
      case TraceAxis::ShareOfFrames:
        positions.push_back(100 * static_cast<double>(i) / static_cast<double>(frame_ms.size()));
        break;
    }
    at += frame_ms[i];
  }
  return positions;
}

std::vector<double> meanByStretch(std::span<const double> frame_ms, std::span<const double> positions, double end,
                                  int stretches) {
  const auto count = static_cast<std::size_t>(stretches);
  std::vector<double> sums(count, 0);
  std::vector<int> frames(count, 0);
  for (std::size_t i = 0; i < frame_ms.size(); ++i) {
    const auto part = static_cast<std::size_t>(std::max(0.0, positions[i] / end * stretches));
    if (part >= count) continue;
    sums[part] += frame_ms[i];
    ++frames[part];
  }
  std::size_t spanning = 0;  // the last frame that began before the part
  for (std::size_t part = 0; part < count; ++part) {
    const double begin = end * static_cast<double>(part) / stretches;
    while (spanning + 1 < frame_ms.size() && positions[spanning + 1] <= begin) ++spanning;
    sums[part] = frames[part] > 0 ? sums[part] / frames[part] : frame_ms.empty() ? 0 : frame_ms[spanning];
  }
  return sums;
}

FrameDistribution distributionOf(std::span<const double> frame_ms, double lo_ms, double hi_ms, int bins) {
  FrameDistribution distribution;
  const double width = std::log(hi_ms / lo_ms) / bins;
  for (int bin = 0; bin < bins; ++bin) distribution.from_ms.push_back(lo_ms * std::exp(width * bin));
  distribution.share.assign(static_cast<std::size_t>(bins), 0);
  for (const double d : frame_ms) {
    const double bin = std::clamp(std::log(d / lo_ms) / width, 0.0, static_cast<double>(bins - 1));
    distribution.share[static_cast<std::size_t>(bin)] += 1.0 / static_cast<double>(frame_ms.size());
  }
  return distribution;
}

}  // namespace core
