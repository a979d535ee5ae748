#pragma once

#include <cstdint>
#include <memory>

namespace recorder {

class RingWriter;

/// Asks a Wayland compositor when each frame of a surface came onto the screen ("presentation-time"), over the
/// program's own connection, with a queue of ours: the program's queues see nothing of it. It never waits but when it
/// is made.
class WaylandFeedback {
 public:
  /// `display` and `surface` are the program's wl_display and wl_surface. Nothing where the compositor does not tell.
  [[nodiscard]] static std::unique_ptr<WaylandFeedback> of(void* display, void* surface, RingWriter& ring);
  ~WaylandFeedback();
  WaylandFeedback(const WaylandFeedback&) = delete;
  WaylandFeedback& operator=(const WaylandFeedback&) = delete;

  /// The surface's next commit shows the ring's next frame. Takes in what the compositor has said meanwhile.
  void beforeCommit();

  struct State;

 private:
  explicit WaylandFeedback(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

/// Is this address a wl_display of the library that the program uses?
[[nodiscard]] bool isWaylandDisplay(void* address);

}  // namespace recorder
