#pragma once

#include <optional>
#include <string>

namespace core {

/// Which of the two that a study may ask for is the larger one in a case.
/// `Mixed`: of several cases summed up some have no frames, and go by the percentage.
enum class ThresholdDecides { Percent, Milliseconds, NothingCanBeNoticed, Mixed };
/// "percent", "ms", "nothing can be noticed", "mixed". Scripts may rely on it.
[[nodiscard]] const char* thresholdDecidesName(ThresholdDecides decides);

/// The smallest difference worth acting on, on the improvement scale.
struct NoticeThreshold {
  double gain_percent = 0;  ///< endless where no gain can be noticed
  double loss_percent = 0;  ///< negative: the equally large loss
  ThresholdDecides decides = ThresholdDecides::Percent;
  std::optional<double> ms;  ///< a frame, where the study asks for it
};

/// The loss as large as a gain of `threshold_percent`, in percent (negative): -1.96 for 2.
[[nodiscard]] double lossBoundPercent(double threshold_percent);

/// The larger one of a percentage and of a time a frame. A gain of `ms` shortens a frame of `baseline_frame_ms` by as
/// much; the equally large loss is its inverse. Where the frame is no longer than `ms` no gain can be noticed, and a
/// loss is from where a frame takes `ms` longer.
/// Units   percent >= 0; ms a frame, both above 0; without either of the two times percent alone
[[nodiscard]] NoticeThreshold noticeThreshold(double percent, std::optional<double> ms = {},
                                              std::optional<double> baseline_frame_ms = {});

/// "2 %", "1.28 ms per frame, here 5.51 %", "4 ms per frame".
[[nodiscard]] std::string thresholdText(const NoticeThreshold& threshold);

}  // namespace core
