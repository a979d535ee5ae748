#pragma once

#include <xcb/xcb.h>
#include <vulkan/vulkan_raii.hpp>

#include <array>
#include <cstdint>
#include <stdexcept>

namespace probe {

/// A window on the X display that a scene is shown in. Throws std::runtime_error where there is no display.
class Window {
 public:
  explicit Window(std::uint32_t size) : server_(xcb_connect(nullptr, nullptr)) {
    if (xcb_connection_has_error(server_) != 0) throw std::runtime_error("there is no X display");
    const xcb_screen_t* screen = xcb_setup_roots_iterator(xcb_get_setup(server_)).data;
    handle_ = xcb_generate_id(server_);
    const auto pixels = static_cast<std::uint16_t>(size);
    xcb_create_window(server_, XCB_COPY_FROM_PARENT, handle_, screen->root, 0, 0, pixels, pixels, 0,
                      XCB_WINDOW_CLASS_INPUT_OUTPUT, screen->root_visual, 0, nullptr);
    // Of one size: a window manager that gives it another would end the measurement.
    enum : std::uint32_t { kMinimum = 1U << 4U, kMaximum = 1U << 5U };
    const std::array<std::uint32_t, 18> hints{kMinimum | kMaximum, 0, 0, 0, 0, pixels, pixels, pixels, pixels};
    xcb_change_property(server_, XCB_PROP_MODE_REPLACE, handle_, XCB_ATOM_WM_NORMAL_HINTS, XCB_ATOM_WM_SIZE_HINTS, 32,
                        static_cast<std::uint32_t>(hints.size()), hints.data());
    xcb_map_window(server_, handle_);
    xcb_flush(server_);
  }
  ~Window() { xcb_disconnect(server_); }
  Window(const Window&) = delete;
  Window& operator=(const Window&) = delete;
  [[nodiscard]] vk::XcbSurfaceCreateInfoKHR surface() const { return {{}, server_, handle_}; }

 private:
  xcb_connection_t* server_;
  xcb_window_t handle_ = 0;
};

}  // namespace probe
