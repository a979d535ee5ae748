#include "core/findings/thresholds.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/effect.h"

namespace core {

std::optional<double> frameMs(const Metric& metric, double value) {
  const auto fps = asFps(value, metric.unit);
  return fps && *fps > 0 ? std::optional(1000 / *fps) : std::nullopt;
}

std::string askedThresholdText(const Study& study) {
  const std::string percent = fmt::format("{:g} %", study.notice_threshold_percent);
  return study.notice_threshold_ms
             ? percent + fmt::format(" or {:g} ms a frame, whichever is more", *study.notice_threshold_ms)
             : percent;
}

NoticeThreshold thresholdAt(const Study& study, const Metric& metric, std::optional<double> baseline) {
  return noticeThreshold(study.notice_threshold_percent, study.notice_threshold_ms,
                         baseline ? frameMs(metric, *baseline) : std::nullopt);
}

NoticeThreshold thresholdOver(const Study& study, std::span<const std::optional<double>> frame_ms) {
  std::optional<double> mean;
  if (!frame_ms.empty() &&
      std::all_of(frame_ms.begin(), frame_ms.end(), [](const auto& one) { return one.has_value(); })) {
    double sum = 0;
    for (const auto& one : frame_ms) sum += std::log(*one);
    mean = std::exp(sum / static_cast<double>(frame_ms.size()));
  }
  return noticeThreshold(study.notice_threshold_percent, study.notice_threshold_ms, mean);
}

}  // namespace core
