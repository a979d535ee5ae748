#pragma once

#include <cstdint>
#include <memory>

#include "recorder/guest/gl_timer.h"
#include "recorder/guest/ring_writer.h"
#include "recorder/guest/wayland_feedback.h"

namespace recorder {

/// A thing that a program shows frames on, as its interface names it.
struct Surface {
  const char* interface;  ///< "GLX", "EGL" or "Vulkan"
  const void* owner;      ///< display or device
  std::uint64_t id;       ///< drawable or surface
};

/// The frames of one surface after the other.
struct Stream {
  explicit Stream(const char* interface) : ring(interface) {}

  static constexpr int kIntervalNotSet = -1000000;

  RingWriter ring;
  int swap_interval = kIntervalNotSet;
  std::unique_ptr<WaylandFeedback> feedback;  ///< where a Wayland compositor says what was shown
  std::unique_ptr<GlTimer> timer;             ///< of OpenGL, where device times are wanted
  bool is_described = false;                  ///< false again with every surface that goes on in it
};

/// The stream of a surface, made at its first use; nothing where none can be made, or this process has too many. A
/// surface that comes after one has ended goes on in its stream. Finding one that is there waits for nothing.
[[nodiscard]] Stream* streamOf(const Surface& surface);
/// The stream of a surface that is there already.
[[nodiscard]] Stream* knownStreamOf(const Surface& surface);
/// The surface is gone.
void endSurface(const Surface& surface);

/// While it lives, calls of this thread that hand over a frame belong to one that is being handed over already: a
/// wrapper around the library's function calls that in turn.
class Nesting {
 public:
  Nesting() { ++depth_; }
  ~Nesting() { --depth_; }
  Nesting(const Nesting&) = delete;
  Nesting& operator=(const Nesting&) = delete;
  [[nodiscard]] bool isOutermost() const { return depth_ == 1; }

 private:
  static thread_local int depth_;
};

}  // namespace recorder
