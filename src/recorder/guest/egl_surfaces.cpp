#include "recorder/guest/egl_surfaces.h"

#include <dlfcn.h>
#include <wayland-egl-backend.h>

#include <map>
#include <mutex>
#include <utility>

#include "recorder/guest/own_process.h"
#include "recorder/guest/real_functions.h"
#include "recorder/guest/streams.h"

namespace recorder {
namespace {

constexpr unsigned kPlatformX = 0x31D5;
constexpr unsigned kPlatformXcb = 0x31DC;
constexpr unsigned kPlatformWayland = 0x31D8;

struct Native {
  WindowSystem system = WindowSystem::Unknown;
  void* display = nullptr;
};
std::mutex guard;
std::map<const void*, Native> displays;
std::map<std::pair<const void*, const void*>, std::uintptr_t> windows;

}  // namespace

WindowSystem windowSystemOf(unsigned egl_platform) {
  if (egl_platform == kPlatformWayland) return WindowSystem::Wayland;
  return egl_platform == kPlatformX || egl_platform == kPlatformXcb ? WindowSystem::X : WindowSystem::Unknown;
}

WindowSystem windowSystemOf(const void* egl_display) {
  const std::lock_guard lock(guard);
  const auto found = displays.find(egl_display);
  return found == displays.end() ? WindowSystem::Unknown : found->second.system;
}

void noteEglDisplay(const void* egl_display, WindowSystem system, void* native) {
  if (egl_display == nullptr || !wanted().any()) return;
  const std::lock_guard lock(guard);
  displays[egl_display] = {system, native};
}

void noteEglWindow(const void* egl_display, const void* surface, std::uintptr_t window) {
  if (surface == nullptr || !wanted().any()) return;
  const std::lock_guard lock(guard);
  windows[{egl_display, surface}] = window;
}

void forgetEglWindow(const void* egl_display, const void* surface) {
  const std::lock_guard lock(guard);
  windows.erase({egl_display, surface});
}

void placeEgl(Stream& stream, const void* egl_display, const void* surface) {
  Native native;
  std::uintptr_t window = 0;
  {
    const std::lock_guard lock(guard);
    if (const auto found = displays.find(egl_display); found != displays.end()) native = found->second;
    if (const auto found = windows.find({egl_display, surface}); found != windows.end()) window = found->second;
  }
  constexpr std::uintptr_t kLargestXId = 0x1FFFFFFF;  // beyond it lies an address, of some other system's surface
  if (native.system != WindowSystem::Wayland) {
    if (window != 0 && window <= kLargestXId) stream.ring.place(wanted().x_display, window);
    return;
  }
  const auto* egl_window = reinterpret_cast<const wl_egl_window*>(window);
  if (egl_window == nullptr || egl_window->version != WL_EGL_WINDOW_VERSION) return;
  stream.ring.resize(static_cast<std::uint32_t>(egl_window->width), static_cast<std::uint32_t>(egl_window->height));
  if (wanted().shown_time) stream.feedback = WaylandFeedback::of(native.display, egl_window->surface, stream.ring);
}

}  // namespace recorder
