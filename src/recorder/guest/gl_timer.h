#pragma once

#include <array>
#include <cstdint>

#include "recorder/guest/gl_library.h"

namespace recorder {

class RingWriter;

/// Times how long a device works on each frame of an OpenGL context: from its coming to the first commands after one
/// hand-over until it is through with those before the next. Where it waits in between for a program that is slow to
/// draw, that counts too. It leaves two time stamps of its own a frame among the program's commands and reads them when
/// they are there: it never waits for the device, and stands beside what the program itself asks for. A context that
/// keeps no time (before OpenGL 3.3; OpenGL ES without its extension) goes untimed.
class GlTimer {
 public:
  /// `current_context` is the library's function that tells which context is current.
  GlTimer(const GlLibrary& library, void* (*current_context)())
      : library_(library), current_context_(current_context) {}

  /// Some context of this process is about to go, and another may come to its address.
  static void forgetContexts();

  /// The next frame of the ring is about to be handed over.
  void beforeSwap(RingWriter& ring);
  /// It was handed over: what follows belongs to the one after.
  void afterSwap();

 private:
  static constexpr std::uint32_t kSlots = 16;  // frames that may be on their way
  enum class Stage { Free, Begun, Ended };
  struct Slot {
    std::uint32_t begin = 0;
    std::uint32_t end = 0;
    Stage stage = Stage::Free;
    std::uint64_t frame = 0;
  };
  struct Functions {
    void (*generate)(std::int32_t count, std::uint32_t* queries) = nullptr;
    void (*stamp)(std::uint32_t query, std::uint32_t what) = nullptr;
    void (*say)(std::uint32_t query, std::uint32_t what, std::int32_t* value) = nullptr;
    void (*read)(std::uint32_t query, std::uint32_t what, std::uint64_t* value) = nullptr;
  };

  // Queries belong to a context: those at hand, where they are of the current one, else new ones.
  [[nodiscard]] bool isAble();
  void begin(const void* context);
  [[nodiscard]] bool canTime();
  void collect(RingWriter& ring);
  [[nodiscard]] bool isThere(std::uint32_t query) const;
  [[nodiscard]] std::uint64_t moment(std::uint32_t query) const;

  GlLibrary library_;
  void* (*current_context_)();
  const void* context_ = nullptr;  // whose queries these are
  unsigned generation_ = 0;        // contexts that were gone by then
  Functions call_;                 // none where the context keeps no time
  std::array<Slot, kSlots> slots_;
  std::uint32_t next_ = 0;  // the slot that the next frame takes
};

}  // namespace recorder
