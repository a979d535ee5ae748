#pragma once

#include <functional>
#include <optional>
#include <string>

#include "core/values/result.h"

namespace probe {

/// How many frames are drawn, and where their durations go. Exactly one of `seconds` and `frames` is set.
struct FrameLoop {
  std::optional<double> seconds;
  std::optional<int> frames;
  std::string log_path;  ///< frame log; empty for none
};

struct FrameCount {
  int frames = 0;
  double seconds = 0;
  double average_fps = 0;
};

/// Draws frame after frame and logs each one's real duration (steady clock). `draw` is told the place on the path, from
/// 0 to 1: by time or by number of frames, either way every pass sees the same path. Asked to end (SIGTERM), it
/// finishes its log. Errors  OutOfRange{what} for options, DiskFull for the log, and what `draw` says
[[nodiscard]] core::Result<FrameCount> runFrames(const FrameLoop& loop, const char* what,
                                                 const std::function<core::Status(double position)>& draw);

}  // namespace probe
