#pragma once

namespace core {

/// What else a laboratory may judge a change by, beside its interval.
enum class Yardstick { Interval, FixedBand, TwoRunToRunSds };
[[nodiscard]] const char* yardstickName(Yardstick yardstick);

enum class Standing { Gain, Loss, Within };
[[nodiscard]] const char* standingName(Standing standing);

/// A gain above +band, a loss below the equally large fall. Percent, direction taken out.
[[nodiscard]] Standing byFixedBand(double improvement_percent, double band_percent);

/// Beyond two run-to-run sds of ln(metric), either way. Percent, direction taken out.
[[nodiscard]] Standing byTwoSds(double improvement_percent, double pass_sd);

/// Two run-to-run sds as a percentage.
[[nodiscard]] double twoSdsPercent(double pass_sd);

}  // namespace core
