#pragma once

#include <cstddef>
#include <cstdint>
#include <span>
#include <string>
#include <vector>

#include "core/frames/presentation.h"
#include "core/values/result.h"

namespace recorder {

/// One frame as a recorded program told of it. Nanoseconds; moments of CLOCK_MONOTONIC.
struct RecordedFrame {
  std::int64_t handed_over = 0;
  std::int64_t returned = 0;
  std::int64_t thread_time = 0;   ///< processor time of the thread so far; 0: not noted
  std::int64_t process_time = 0;  ///< of the whole program so far; 0: not noted
  std::int64_t shown = 0;         ///< on the screen; 0: not known, -1: never
  std::int64_t device_time = 0;   ///< 0: not known
  std::uint32_t submissions = 0;  ///< UINT32_MAX: not counted
  bool begins_surface = false;
  std::uint64_t refresh = 0;  ///< the display's count of refreshes when it was shown; 0: not known
};

/// What a ring holds from a frame on.
struct RingContent {
  core::Presentation presenter;
  std::uint32_t process = 0;
  std::string x_display;  ///< empty: its window is on none, or not known
  std::uint64_t x_window = 0;
  std::uint64_t written = 0;
  std::uint64_t first = 0;            ///< the number of the first frame of `frames`; those before it are written over
  std::vector<RecordedFrame> frames;  ///< in the order in which they were handed over
};

/// Reads the bytes of a ring from the frame `from` on. They come from another program: nothing in them is taken for
/// granted.
/// Errors  Malformed: no ring, cut off, or its times run backwards
[[nodiscard]] core::Result<RingContent> parseRing(std::span<const std::byte> bytes, std::uint64_t from);

}  // namespace recorder
