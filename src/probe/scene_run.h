#pragma once

#include <cstdint>

#include "core/values/result.h"
#include "probe/frame_loop.h"

namespace probe {

struct SceneOptions {
  int size = 1024;  ///< pixels each way
  int threads = 1;
  FrameLoop loop;
};

struct SceneSummary {
  FrameCount count;
  std::uint64_t checksum = 0;  ///< of the last picture
};

/// Draws a dome of stars in software, always along the same path.
/// Errors  those of runFrames, OutOfRange for the threads
[[nodiscard]] core::Result<SceneSummary> runScene(const SceneOptions& options);

}  // namespace probe
