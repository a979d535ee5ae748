#pragma once

#include <cstdint>

#include "recorder/ring_layout.h"

namespace recorder {

/// Writes one ring from within a recorded program. Must not disturb it: it never throws, writes to no stream, and where
/// the ring cannot be made it does nothing.
class RingWriter {
 public:
  /// In the folder that the environment names: the ring that was reserved, else a new one.
  explicit RingWriter(const char* interface);
  /// Makes a ring before it is needed: programs may forbid themselves to open files before their first frame. For
  /// moments at which a program is about to draw; does nothing where one is reserved.
  static void reserve();
  ~RingWriter();
  RingWriter(const RingWriter&) = delete;
  RingWriter& operator=(const RingWriter&) = delete;

  void describe(const char* device, const char* present_mode);
  void resize(std::uint32_t width, std::uint32_t height);
  void place(const char* display, std::uint64_t window);
  /// Another surface goes on where the last one ended.
  void beginSurface();

  /// A frame is about to be handed over, now. It counts when `returned` says so.
  struct Frame {
    std::int64_t handed_over = 0;
    std::int64_t thread_time = 0;
    std::int64_t process_time = 0;
  };
  [[nodiscard]] static Frame handOver();
  /// The call came back and the frame was taken. Returns its number, from 0.
  std::uint64_t returned(const Frame& frame, std::uint32_t submissions = FrameRecord::kNotCounted);
  /// What is known later: when the frame of that number was shown, or how long the device worked on it.
  void shown(std::uint64_t frame, std::int64_t moment, std::uint64_t refresh);
  void deviceTook(std::uint64_t frame, std::int64_t duration);
  /// The number of the frame that is handed over next.
  [[nodiscard]] std::uint64_t next() const;

 private:
  RingHeader* header_ = nullptr;
  FrameRecord* records_ = nullptr;
  bool begins_surface_ = true;

  [[nodiscard]] FrameRecord* recordOf(std::uint64_t frame) const;
};

}  // namespace recorder
