#pragma once

#include <atomic>
#include <cstdint>

namespace recorder {

/// What is noted of one frame. Durations and moments in nanoseconds; moments of CLOCK_MONOTONIC.
struct FrameRecord {
  std::int64_t handed_over = 0;               ///< the program called for the frame to be shown
  std::int64_t returned = 0;                  ///< and that call came back: between the two the program may have waited
  std::int64_t thread_time = 0;               ///< processor time of the thread that called, so far; 0: not noted
  std::int64_t process_time = 0;              ///< processor time of all threads, so far; 0: not noted, as most are not
  std::atomic<std::int64_t> shown = 0;        ///< it came onto the screen; kNotKnown, or kNeverShown. Comes late
  std::atomic<std::int64_t> device_time = 0;  ///< the graphics device worked on it; 0: not known. Comes late
  std::uint32_t submissions = 0;              ///< handed to the device since the frame before; kNotCounted elsewhere
  std::uint32_t begins_surface = 0;           ///< 1: the first frame of a surface or swapchain that was made anew
  std::atomic<std::uint64_t> refresh = 0;     ///< the display's count of refreshes when it was shown; 0: not known

  static constexpr std::int64_t kNotKnown = 0;
  static constexpr std::int64_t kNeverShown = -1;  ///< a later one took its place
  static constexpr std::uint32_t kNotCounted = UINT32_MAX;
};
static_assert(sizeof(FrameRecord) == 64 && std::atomic<std::int64_t>::is_always_lock_free);

/// The file by which a recorded program tells of the frames of one of its surfaces: this header, then `capacity`
/// records, the newest over the oldest. Only that process writes it. It appears under its name, "*.ring", when its
/// header can be read; the interface is said with the first frame. Programs of 32 and of 64 bits write the same.
struct RingHeader {
  static constexpr std::uint64_t kMagic = 0x32474e49524c49;  ///< "ILRING2" in the order of the bytes
  static constexpr std::uint32_t kCapacity = 1U << 14;

  std::uint64_t magic = kMagic;
  std::uint32_t header_bytes = 0;
  std::uint32_t capacity = kCapacity;
  alignas(8) std::atomic<std::uint64_t> written = 0;  ///< frames handed over so far; stored after the record itself
  std::atomic<std::uint32_t> width = 0;               ///< of the picture, pixels
  std::atomic<std::uint32_t> height = 0;
  std::uint32_t process = 0;
  std::uint32_t reserved = 0;
  alignas(8) std::uint64_t window = 0;  ///< on an X display: the window's id; 0: none
  char interface[16] = {};              ///< "Vulkan", "GLX" or "EGL"
  char present_mode[32] = {};           ///< "FIFO", "swap interval 1", …; empty where the interface does not say
  char device[160] = {};                ///< the device that rendered, as its driver calls it
  char program[64] = {};
  char display[64] = {};  ///< the X display of the window, ":0"; empty: none, or not known
};
static_assert(sizeof(RingHeader) == 384, "the records begin on a border of 64 bytes, of 32 bits too");

/// In which folder a recorded program puts its rings.
constexpr const char* kFolderVariable = "IRON_LEVER_FRAMES";
/// Empty files of a ring's size that the recording keeps in that folder, kSpareRing with a number from 0: for programs
/// that may make no file of that size.
constexpr const char* kSpareRing = "spare-";
constexpr int kSpareRings = 4;
/// What is noted beside the hand-over, parted by commas: kProcessorTime, kShownTime, kDeviceTime.
constexpr const char* kNotedVariable = "IRON_LEVER_FRAMES_NOTE";
constexpr const char* kProcessorTime = "cpu";
constexpr const char* kShownTime = "shown";
constexpr const char* kDeviceTime = "gpu";

}  // namespace recorder
