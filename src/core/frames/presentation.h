#pragma once

#include <string>

namespace core {

/// How a recorded program showed its frames.
struct Presentation {
  std::string interface;     ///< "Vulkan", "GLX" or "EGL"
  std::string present_mode;  ///< "FIFO", "mailbox", …; empty where the interface does not say
  std::string device;        ///< that rendered, as its driver calls it
  std::string program;
  int width = 0;  ///< of the picture, pixels; 0: not known
  int height = 0;

  /// "Vulkan, 1280 × 800, FIFO, on software device".
  [[nodiscard]] std::string sentence() const;
  bool operator==(const Presentation&) const = default;
};

}  // namespace core
