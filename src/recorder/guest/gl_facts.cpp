#include "recorder/guest/gl_facts.h"

#include <stdio.h>

#include <atomic>

#include "recorder/guest/gl_library.h"
#include "recorder/guest/own_process.h"
#include "recorder/guest/streams.h"

namespace recorder {
namespace {

constexpr unsigned kGlRenderer = 0x1F01;
constexpr unsigned kGlViewport = 0x0BA2;
std::atomic<int> swap_interval = Stream::kIntervalNotSet;

// Only where a context is current: without one some libraries fail. The viewport is the picture as it is drawn.
void describeContext(Stream& stream, const GlLibrary& library) {
  auto* const current = library.function<void*()>(library.current_context);
  if (current == nullptr || current() == nullptr) return;
  if (wanted().device_time && !stream.timer) stream.timer = std::make_unique<GlTimer>(library, current);
  if (auto* const get_string = library.glFunction<const char*(unsigned)>("glGetString"))
    stream.ring.describe(get_string(kGlRenderer), nullptr);
  int viewport[4] = {};
  if (auto* const get_integers = library.glFunction<void(unsigned, int*)>("glGetIntegerv"))
    get_integers(kGlViewport, viewport);
  if (viewport[2] > 0 && viewport[3] > 0)
    stream.ring.resize(static_cast<std::uint32_t>(viewport[2]), static_cast<std::uint32_t>(viewport[3]));
}

}  // namespace

void describeGlx(Stream& stream, const void* swap, void* display, unsigned long drawable) {
  const GlLibrary library = GlLibrary::glx(swap);
  auto* const name = library.function<char*(void*)>("XDisplayString");
  stream.ring.place(name != nullptr && display != nullptr ? name(display) : nullptr, drawable);
  describeContext(stream, library);
}

void describeEgl(Stream& stream, const void* swap) { describeContext(stream, GlLibrary::egl(swap)); }

void setSwapInterval(int interval) { swap_interval = interval; }

void describeInterval(Stream& stream) {
  const int interval = swap_interval.load(std::memory_order_relaxed);
  if (interval == stream.swap_interval) return;
  stream.swap_interval = interval;
  char text[32];
  snprintf(text, sizeof text, "swap interval %d", interval);
  stream.ring.describe(nullptr, text);
}

}  // namespace recorder
