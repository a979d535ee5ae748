#include "core/findings/thresholds.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/effect.h"
#include "core/values/percent.h"

namespace core {

std::optional<double> frameMs(const Metric& metric, double value) {
  const auto fps = asFps(value, metric.unit);
  return fps && *fps > 0 ? std::optional(1000 / *fps) : std::nullopt;
}

std::string askedThresholdText(const Study& study) {
  const std::string percent = fmt::format("{:g} %", study.notice_threshold_percent);
  return study.notice_threshold_ms
             ? percent + fmt::format(" or {:g} ms per frame, whichever is more", *study.notice_threshold_ms)
             : percent;
}

NoticeThreshold thresholdAt(const Study& study, const Metric& metric, std::optional<double> baseline) {
  return noticeThreshold(study.notice_threshold_percent, study.notice_threshold_ms,
                         baseline ? frameMs(metric, *baseline) : std::nullopt);
}

NoticeThreshold thresholdOver(const Study& study, std::span<const std::optional<double>> frame_ms) {
  double sum = 0;
  double with_frames = 0;
  for (const auto& one : frame_ms) {
    if (!one) continue;
    sum += std::log(*one);
    ++with_frames;
  }
  const auto mean = with_frames > 0 ? std::optional(std::exp(sum / with_frames)) : std::nullopt;
  NoticeThreshold threshold = noticeThreshold(study.notice_threshold_percent, study.notice_threshold_ms, mean);
  const double share = with_frames / static_cast<double>(std::max<std::size_t>(frame_ms.size(), 1));
  if (!mean || share >= 1 || threshold.decides == ThresholdDecides::Percent) return threshold;
  // A suite is the mean of its cases, and so is its threshold: those without frames have the percentage alone.
  const NoticeThreshold plain = noticeThreshold(study.notice_threshold_percent);
  const auto mixed = [&](double own, double other) {
    return percentOfLn(share * lnOfPercent(own) + (1 - share) * lnOfPercent(other));
  };
  threshold.gain_percent = mixed(threshold.gain_percent, plain.gain_percent);
  threshold.loss_percent = mixed(threshold.loss_percent, plain.loss_percent);
  threshold.decides = ThresholdDecides::Mixed;
  return threshold;
}

}  // namespace core
