#include "core/estimate/notice_threshold.h"

#include <cmath>
#include <limits>

#include <fmt/format.h>

#include "core/values/percent.h"

namespace core {

const char* thresholdDecidesName(ThresholdDecides decides) {
  switch (decides) {
    case ThresholdDecides::Percent: return "percent";
    case ThresholdDecides::Milliseconds: return "ms";
    case ThresholdDecides::NothingCanBeNoticed: return "nothing can be noticed";
    case ThresholdDecides::Mixed: return "mixed";
  }
  return "unknown";
}

double lossBoundPercent(double threshold_percent) { return 100.0 * (1.0 / (1.0 + threshold_percent / 100.0) - 1.0); }

NoticeThreshold noticeThreshold(double percent, std::optional<double> ms, std::optional<double> baseline_frame_ms) {
  NoticeThreshold threshold{percent, lossBoundPercent(percent), ThresholdDecides::Percent, ms};
  if (!ms || !baseline_frame_ms) return threshold;
  if (*ms >= *baseline_frame_ms) {
    threshold.gain_percent = std::numeric_limits<double>::infinity();
    threshold.loss_percent = -100 * *ms / (*baseline_frame_ms + *ms);
    threshold.decides = ThresholdDecides::NothingCanBeNoticed;
    return threshold;
  }
  const double by_ms = percentOfLn(-std::log1p(-*ms / *baseline_frame_ms));
  if (by_ms <= percent) return threshold;
  threshold.gain_percent = by_ms;
  threshold.loss_percent = lossBoundPercent(by_ms);
  threshold.decides = ThresholdDecides::Milliseconds;
  return threshold;
}

std::string thresholdText(const NoticeThreshold& threshold) {
  switch (threshold.decides) {
    case ThresholdDecides::Percent: return fmt::format("{:g} %", threshold.gain_percent);
    case ThresholdDecides::Milliseconds:
      return fmt::format("{:g} ms per frame, here {:.3g} %", *threshold.ms, threshold.gain_percent);
    case ThresholdDecides::NothingCanBeNoticed: return fmt::format("{:g} ms per frame", *threshold.ms);
    case ThresholdDecides::Mixed:
      return fmt::format("{:.3g} %, by {:g} ms per frame where there are frames", threshold.gain_percent,
                         *threshold.ms);
  }
  return {};
}

}  // namespace core
