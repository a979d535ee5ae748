#include "recorder/guest/vulkan_surfaces.h"

#include <map>
#include <mutex>

#include "recorder/guest/own_process.h"
#include "recorder/guest/streams.h"

namespace recorder {
namespace {

std::mutex guard;
std::map<std::uint64_t, WindowPlace> places;

}  // namespace

SurfaceFunctions SurfaceFunctions::behind(PFN_vkGetInstanceProcAddr next, VkInstance instance) {
  return {reinterpret_cast<Create<XlibSurface>>(next(instance, "vkCreateXlibSurfaceKHR")),
          reinterpret_cast<Create<XcbSurface>>(next(instance, "vkCreateXcbSurfaceKHR")),
          reinterpret_cast<Create<WaylandSurface>>(next(instance, "vkCreateWaylandSurfaceKHR")),
          reinterpret_cast<PFN_vkDestroySurfaceKHR>(next(instance, "vkDestroySurfaceKHR"))};
}

WindowPlace placeOfXlib(const XlibSurface& info) { return {info.window, nullptr, nullptr}; }
WindowPlace placeOfXcb(const XcbSurface& info) { return {info.window, nullptr, nullptr}; }
WindowPlace placeOfWayland(const WaylandSurface& info) { return {0, info.display, info.surface}; }

void noteSurface(VkSurfaceKHR surface, const WindowPlace& place) {
  const std::lock_guard lock(guard);
  places[idOf(surface)] = place;
}

void forgetSurface(VkSurfaceKHR surface) {
  const std::lock_guard lock(guard);
  places.erase(idOf(surface));
}

void placeSurface(Stream& stream, VkSurfaceKHR surface) {
  WindowPlace place;
  {
    const std::lock_guard lock(guard);
    if (const auto found = places.find(idOf(surface)); found != places.end()) place = found->second;
  }
  if (place.x_window != 0) stream.ring.place(wanted().x_display, place.x_window);
  if (place.wayland_surface != nullptr && wanted().shown_time)
    stream.feedback = WaylandFeedback::of(place.wayland_display, place.wayland_surface, stream.ring);
}

std::uint64_t idOf(VkSurfaceKHR surface) {
  static_assert(sizeof surface <= sizeof(std::uint64_t));
#if VK_USE_64_BIT_PTR_DEFINES
  return static_cast<std::uint64_t>(reinterpret_cast<std::uintptr_t>(surface));
#else
  return surface;
#endif
}

}  // namespace recorder
