#pragma once

#include <atomic>
#include <cstdint>

namespace recorder {

/// The file by which a recorded program tells when it presented its frames: this header, then `capacity` times in
/// nanoseconds of CLOCK_MONOTONIC, the newest over the oldest. One file for each window of each process; only that
/// process writes it. It appears under its name, "*.ring", when its header is complete.
struct RingHeader {
  static constexpr std::uint64_t kMagic = 0x31474e49524c49;  ///< "ILRING1" in the order of the bytes
  static constexpr std::uint32_t kCapacity = 1U << 17;

  std::uint64_t magic = kMagic;
  std::uint32_t header_bytes = 0;
  std::uint32_t capacity = kCapacity;
  std::atomic<std::uint64_t> written = 0;  ///< frames presented so far; stored after the time itself
  std::atomic<std::uint32_t> width = 0;    ///< of the picture, pixels
  std::atomic<std::uint32_t> height = 0;
  std::uint32_t process = 0;
  std::uint32_t reserved = 0;
  char interface[16] = {};     ///< "Vulkan", "GLX" or "EGL"
  char present_mode[32] = {};  ///< "FIFO", "mailbox", …; empty where the interface does not say
  char device[160] = {};       ///< the device that rendered, as its driver calls it
  char program[64] = {};
};
static_assert(std::atomic<std::uint64_t>::is_always_lock_free && sizeof(RingHeader) == 312);

/// In which folder a recorded program puts its rings.
constexpr const char* kFolderVariable = "IRON_LEVER_FRAMES";

}  // namespace recorder
