#pragma once

#include <optional>
#include <span>
#include <string>

#include "core/estimate/notice_threshold.h"
#include "core/study/study.h"

namespace core {

/// How long a frame lasts at that value of a metric, ms; nothing where the metric counts no frames.
[[nodiscard]] std::optional<double> frameMs(const Metric& metric, double value);

/// What the study asks for: "2 %", "2 % or 1.28 ms per frame, whichever is more".
[[nodiscard]] std::string askedThresholdText(const Study& study);

/// The threshold of a case whose geometric mean at the baseline is `baseline`; without one yet by percent alone.
[[nodiscard]] NoticeThreshold thresholdAt(const Study& study, const Metric& metric, std::optional<double> baseline);

/// The threshold of several cases summed up, as their effects are: the mean of theirs on the ln scale, at the geometric
/// mean of their frames; those without frames have the percentage.
[[nodiscard]] NoticeThreshold thresholdOver(const Study& study, std::span<const std::optional<double>> frame_ms);

}  // namespace core
