#pragma once

#include <string>

namespace core {

/// Which way a metric is better. Written into study files; never renumbered.
enum class Direction { HigherIsBetter = 0, LowerIsBetter = 1 };

/// How two values of a metric compare: by their ratio, in percent, as rates and times do; or by their difference, in
/// the unit, as decibels and degrees do. Written into study files; never renumbered.
enum class Scale { Ratio = 0, Difference = 1 };

/// +1 where higher is better, -1 where lower is: turns a change into an improvement.
inline double signOf(Direction direction) { return direction == Direction::HigherIsBetter ? 1.0 : -1.0; }

/// A number that a pass yields.
struct Metric {
  std::string name = "average FPS";
  std::string unit = "FPS";
  Direction direction = Direction::HigherIsBetter;
  Scale scale = Scale::Ratio;
  double threshold = 1;  ///< for a difference: the smallest one worth acting on, in the unit

  bool operator==(const Metric&) const = default;
};

/// Does it tell of frames: a rate in FPS, or the time of one in ms?
inline bool isFrameRate(const Metric& metric) { return metric.unit == "FPS" || metric.unit == "fps"; }
inline bool isFrameMetric(const Metric& metric) { return isFrameRate(metric) || metric.unit == "ms"; }

}  // namespace core
