#pragma once

#include <cstdint>

namespace recorder {

struct Stream;

enum class WindowSystem { Unknown, X, Wayland };

/// What an EGL display and its window surfaces stand on, noted as the program makes them.
[[nodiscard]] WindowSystem windowSystemOf(unsigned egl_platform);
[[nodiscard]] WindowSystem windowSystemOf(const void* egl_display);
void noteEglDisplay(const void* egl_display, WindowSystem system, void* native);
void noteEglWindow(const void* egl_display, const void* surface, std::uintptr_t window);
void forgetEglWindow(const void* egl_display, const void* surface);

/// Tells a stream what its surface stands on: the window's id and display on X, the compositor's word on Wayland.
void placeEgl(Stream& stream, const void* egl_display, const void* surface);

}  // namespace recorder
