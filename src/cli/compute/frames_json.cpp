#include "cli/compute/frames_json.h"

#include <array>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/frames/frame_metrics.h"

namespace cli {
namespace {

using nlohmann::ordered_json;

constexpr std::array kLowPercents{1.0, 0.1};

ordered_json lowsJson(const core::Lows& lows) {
  const auto low = [](const core::Low& one) {
    return ordered_json{{"fps", one.fps}, {"rests_on_frames", one.frames}, {"thin", one.isThin()}};
  };
  return {{"percent", lows.percent},
          {"percentile", low(lows.percentile)},
          {"slowest_frames_mean", low(lows.slowest_mean)},
          {"time_share", low(lows.time_share)}};
}

}  // namespace

core::Result<ordered_json> framesJson(const store::ImportedRun& run, double target_fps) {
  const auto found = core::frameMetrics(run.frame_ms, kLowPercents);
  if (!found) return found.error();
  const core::FrameMetrics& metrics = *found;
  ordered_json out{{"run", run.name},
                   {"frames", metrics.frames},
                   {"seconds", metrics.total_ms / 1000},
                   {"average_fps", metrics.average_fps},
                   {"mean_frame_ms", metrics.mean_frame_ms},
                   {"jitter_ms", metrics.jitter_ms},
                   {"stutters_per_minute", metrics.stutters_per_minute},
                   {"longest_frame_ms", metrics.long_frames.longest_ms},
                   {"frames_over_25_ms_per_minute", metrics.long_frames.per_minute[0]},
                   {"frames_over_50_ms_per_minute", metrics.long_frames.per_minute[1]},
                   {"frames_over_100_ms_per_minute", metrics.long_frames.per_minute[2]},
                   {"stalls", metrics.stalls.size()},
                   {"stall_total_ms", metrics.stall_total_ms},
                   {"target_fps", target_fps},
                   {"time_below_target_percent", 100 * core::timeBelowTarget(run.frame_ms, target_fps)},
                   {"lows", ordered_json::array()}};
  for (const core::Lows& lows : metrics.lows) out["lows"].push_back(lowsJson(lows));
  return out;
}

std::string framesLine(const store::ImportedRun& run) {
  const auto found = core::frameMetrics(run.frame_ms, kLowPercents);
  if (!found) return {};
  const core::FrameMetrics& metrics = *found;
  std::string line = fmt::format("  {}: {} frames in {:.2f} s, {}", run.name, metrics.frames, metrics.total_ms / 1000,
                                 core::valueText(metrics.average_fps, "FPS"));
  for (const core::Lows& lows : metrics.lows)
    line += fmt::format(", {:g} % low {}{}", lows.percent, core::valueText(lows.percentile.fps, "FPS"),
                        lows.percentile.isThin() ? " (thin)" : "");
  return line + " (percentile)\n";
}

}  // namespace cli
