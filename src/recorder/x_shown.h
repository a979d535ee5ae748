#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "recorder/frame_ring.h"

struct xcb_connection_t;

namespace recorder {

/// Listens on an X display to when the pictures of windows came onto the screen (Present extension). It stands beside
/// the recorded program, with a connection of its own: the program sees and pays nothing.
class XShown {
 public:
  /// Nothing where the display cannot be reached or does not tell.
  [[nodiscard]] static std::unique_ptr<XShown> on(const std::string& display);
  ~XShown();
  XShown(const XShown&) = delete;
  XShown& operator=(const XShown&) = delete;

  /// From now on. False where there is no such window.
  bool watch(std::uint32_t window);
  /// Takes in what the server has said since.
  void look();

  struct Window {
    std::string title;
    int width = 0;
    int height = 0;
    /// A picture that was handed over: its number in the surface's own count, and when it came onto the screen, in
    /// nanoseconds of CLOCK_MONOTONIC, or FrameRecord::kNeverShown.
    struct Picture {
      std::uint32_t serial = 0;
      std::int64_t moment = 0;  ///< of the event
      bool is_skipped = false;
      std::uint64_t refresh = 0;  ///< the display's count
    };
    std::vector<Picture> pictures;  ///< since the last `take`
  };
  [[nodiscard]] Window take(std::uint32_t window);

 private:
  explicit XShown(xcb_connection_t* connection) : connection_(connection) {}

  xcb_connection_t* connection_;
  std::uint8_t opcode_ = 0;
  std::map<std::uint32_t, Window> windows_;
};

/// Enters the moments of `pictures` into the frames of the window's stream, and leaves those whose frame is not there
/// yet. Picture 1 of a surface is its first frame. Returns how many do not fit: shown before they were handed over.
int enterShown(std::vector<XShown::Window::Picture>& pictures, std::vector<RecordedFrame>& frames);

}  // namespace recorder
