#pragma once

#include <cstdint>
#include <optional>
#include <string>

#include "core/result.h"

namespace probe {

/// How the scene is to be run. Exactly one of `seconds` and `frames` is set.
struct SceneOptions {
  int size = 1024;  ///< pixels each way
  int threads = 1;
  std::optional<double> seconds;
  std::optional<int> frames;
  std::string log_path;  ///< frame log; empty for none
};

struct SceneSummary {
  int frames = 0;
  double seconds = 0;
  double average_fps = 0;
  std::uint64_t checksum = 0;  ///< of the last picture
};

/// Draws frame after frame along the same path and logs each frame's real duration (steady clock).
/// Errors  OutOfRange for options, Io and DiskFull for the log
[[nodiscard]] core::Result<SceneSummary> runScene(const SceneOptions& options);

}  // namespace probe
