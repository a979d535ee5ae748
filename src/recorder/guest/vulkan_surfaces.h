#pragma once

#include <vulkan/vulkan.h>

#include <cstdint>

namespace recorder {

struct Stream;

/// The create structures of three window systems, as Vulkan lays them out: their own headers would bring the window
/// systems' headers with them.
struct XlibSurface {
  VkStructureType type;
  const void* next;
  VkFlags flags;
  void* display;
  unsigned long window;
};
struct XcbSurface {
  VkStructureType type;
  const void* next;
  VkFlags flags;
  void* connection;
  std::uint32_t window;
};
struct WaylandSurface {
  VkStructureType type;
  const void* next;
  VkFlags flags;
  void* display;
  void* surface;
};

/// The next layer's functions that make and end surfaces; null for what was not enabled.
struct SurfaceFunctions {
  template <class Info>
  using Create = VkResult(VKAPI_PTR*)(VkInstance, const Info*, const VkAllocationCallbacks*, VkSurfaceKHR*);

  Create<XlibSurface> create_xlib = nullptr;
  Create<XcbSurface> create_xcb = nullptr;
  Create<WaylandSurface> create_wayland = nullptr;
  PFN_vkDestroySurfaceKHR destroy = nullptr;

  [[nodiscard]] static SurfaceFunctions behind(PFN_vkGetInstanceProcAddr next, VkInstance instance);
};

/// What a surface stands on: a window of an X display, or a Wayland surface.
struct WindowPlace {
  std::uint64_t x_window = 0;
  void* wayland_display = nullptr;
  void* wayland_surface = nullptr;
};
[[nodiscard]] WindowPlace placeOfXlib(const XlibSurface& info);
[[nodiscard]] WindowPlace placeOfXcb(const XcbSurface& info);
[[nodiscard]] WindowPlace placeOfWayland(const WaylandSurface& info);

void noteSurface(VkSurfaceKHR surface, const WindowPlace& place);
void forgetSurface(VkSurfaceKHR surface);
/// Tells a stream what its surface stands on.
void placeSurface(Stream& stream, VkSurfaceKHR surface);

/// A handle as a number: it is a pointer on 64 bits, and a number already on 32.
[[nodiscard]] std::uint64_t idOf(VkSurfaceKHR surface);

}  // namespace recorder
