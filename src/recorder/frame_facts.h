#pragma once

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

#include "recorder/frame_ring.h"

namespace recorder {

/// What became of the frames on the screen, where the system tells.
struct ShownFacts {
  std::size_t known = 0;                ///< frames of which it tells
  std::size_t shown = 0;                ///< of them, those that came onto the screen
  std::size_t skipped = 0;              ///< of them, those that a later one replaced before it did
  std::optional<std::size_t> repeated;  ///< refreshes that showed the frame of the one before; absent: nobody counts
  double fps = 0;                       ///< frames shown a second, from the first to the last
  std::optional<double> refresh_ms;     ///< of the display, by its own count
};

/// What a stretch of recorded frames says beside the moments at which they were handed over.
struct FrameFacts {
  std::optional<ShownFacts> shown;
  std::optional<double> thread_ms;   ///< processor time of the thread that hands over, a frame, in the middle
  std::optional<double> program_ms;  ///< of all threads
  std::optional<double> device_ms;   ///< the graphics device's work on a frame, in the middle
  double waited_ms = 0;              ///< within the hand-over itself, a frame, in the middle
  /// Frames handed over without any work for the device since the one before, where other frames bring some.
  std::size_t possibly_generated = 0;
};

/// Of each frame, whether it was handed over without any work for the device since the one before, where others bring
/// some.
[[nodiscard]] std::vector<bool> possiblyGenerated(std::span<const RecordedFrame> frames);

/// `frames` as they were handed over, two at least.
[[nodiscard]] FrameFacts factsOf(std::span<const RecordedFrame> frames);

}  // namespace recorder
