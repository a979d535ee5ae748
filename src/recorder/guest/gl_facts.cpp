#include "recorder/guest/gl_facts.h"

#include <stdio.h>

#include <atomic>

#include "recorder/guest/real_functions.h"
#include "recorder/guest/streams.h"

namespace recorder {
namespace {

constexpr unsigned kGlRenderer = 0x1F01;
constexpr unsigned kGlViewport = 0x0BA2;
std::atomic<int> swap_interval = Stream::kIntervalNotSet;

template <class Function>
Function* function(const char* name, const void* beside) {
  return reinterpret_cast<Function*>(functionBehindUs(name, beside));
}

// Of OpenGL itself: beside the window system's functions, or by their own way of asking.
template <class Function>
Function* glFunction(const char* name, const void* swap, const char* get_address) {
  if (const auto found = function<Function>(name, swap)) return found;
  const auto address = function<void*(const char*)>(get_address, swap);
  return address == nullptr ? nullptr : reinterpret_cast<Function*>(address(name));
}

// Only where a context is current: without one some libraries fail. The viewport is the picture as it is drawn.
void describeContext(Stream& stream, const void* swap, const char* current_context, const char* get_address) {
  const auto current = function<void*()>(current_context, swap);
  if (current == nullptr || current() == nullptr) return;
  if (const auto get_string = glFunction<const char*(unsigned)>("glGetString", swap, get_address))
    stream.ring.describe(get_string(kGlRenderer), nullptr);
  int viewport[4] = {};
  if (const auto get_integers = glFunction<void(unsigned, int*)>("glGetIntegerv", swap, get_address))
    get_integers(kGlViewport, viewport);
  if (viewport[2] > 0 && viewport[3] > 0)
    stream.ring.resize(static_cast<std::uint32_t>(viewport[2]), static_cast<std::uint32_t>(viewport[3]));
}

}  // namespace

void describeGlx(Stream& stream, const void* swap, void* display, unsigned long drawable) {
  const auto name = function<char*(void*)>("XDisplayString", swap);
  stream.ring.place(name != nullptr && display != nullptr ? name(display) : nullptr, drawable);
  describeContext(stream, swap, "glXGetCurrentContext", "glXGetProcAddressARB");
}

void describeEgl(Stream& stream, const void* swap) {
  describeContext(stream, swap, "eglGetCurrentContext", "eglGetProcAddress");
}

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
