#pragma once

#include <cstdint>

#include "recorder/ring_layout.h"

namespace recorder {

/// Writes one ring from within a recorded program. Must not disturb it: it never throws, writes to no stream, and where
/// the ring cannot be made it does nothing.
class RingWriter {
 public:
  /// In the folder that the environment names.
  explicit RingWriter(const char* interface);
  ~RingWriter();
  RingWriter(const RingWriter&) = delete;
  RingWriter& operator=(const RingWriter&) = delete;

  void describe(const char* device, const char* present_mode);
  void resize(std::uint32_t width, std::uint32_t height);
  /// A frame is handed over for showing, now. A few tens of nanoseconds.
  void present();

 private:
  RingHeader* header_ = nullptr;
  std::int64_t* times_ = nullptr;
};

/// Does the environment ask for recording?
[[nodiscard]] bool isWanted();

}  // namespace recorder
