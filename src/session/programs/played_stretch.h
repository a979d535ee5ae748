#pragma once

#include <optional>

namespace session {

/// Part of a pass or of its frame log, in seconds of its own time.
struct LogStretch {
  double from_s = 0;
  double to_s = 0;
};

/// The counted stretch of a pass that a person plays: between two moments by the clock. Which frames those are is found
/// by comparing, now and then, how long the pass has lasted with how much its log holds: a log is written with a delay,
/// never ahead of time, so the moment at which it lagged least tells how its time lies in ours.
class PlayedStretch {
 public:
  enum class Phase { Waiting, LeadIn, Counting, Over };

  /// A person says that they are at the start; counting begins after the lead-in. Seconds since the pass began.
  void ready(double at_s, double lead_in_s, double length_s);
  /// Ends the counting early; nothing before it has begun.
  void end(double at_s);
  /// So many seconds into the pass its log held so many seconds of frames.
  void observe(double at_s, double logged_s);

  [[nodiscard]] Phase phase(double at_s) const;
  /// Of the lead-in, or of the stretch.
  [[nodiscard]] double secondsLeft(double at_s) const;
  /// Nothing where the stretch was not played to its end at this moment.
  [[nodiscard]] std::optional<LogStretch> stretch(double at_s) const;
  /// The same in seconds since the pass began.
  [[nodiscard]] std::optional<LogStretch> played(double at_s) const;

 private:
  std::optional<double> begins_s_;
  double ends_s_ = 0;
  std::optional<double> log_ahead_s_;  ///< what the log's time is ahead of ours: never above 0 but for rounding
};

}  // namespace session
