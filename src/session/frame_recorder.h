#pragma once

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/presentation.h"
#include "core/result.h"

namespace session {

/// Records when the programs of one pass present their frames, without their help: a Vulkan layer and an OpenGL preload
/// of ours are turned on through the environment of what is started, and leave the times in a folder.
class FrameRecorder {
 public:
  /// `folder` is made, and what is in it of an earlier pass removed.
  explicit FrameRecorder(std::string folder);

  /// Why nothing can be recorded: what is loaded into the programs is not beside ours. Errors  Missing
  [[nodiscard]] static core::Status check();
  /// What is added to a program's environment; variables that are set already keep their content too.
  using Environment = std::vector<std::pair<std::string, std::string>>;
  [[nodiscard]] Environment environment(const Environment& given) const;

  /// Takes what was presented since the last look.
  void look();

  /// The frames of one window of one process.
  struct Window {
    core::Presentation presentation;
    std::vector<std::int64_t> at_ns;  ///< CLOCK_MONOTONIC, when each frame was handed over
    std::uint64_t written = 0;
    std::uint64_t lost = 0;
    std::optional<core::Error> error;
  };
  /// The window with the most frames; nothing where none was shown.
  [[nodiscard]] const Window* busiest() const;
  /// From one frame of the busiest window to the next, in ms. Errors  TooFew, Malformed, and frames that were lost
  [[nodiscard]] core::Result<std::vector<double>> frameMs() const;

 private:
  std::string folder_;
  std::map<std::string, Window> windows_;  ///< by the name of its ring
};

}  // namespace session
