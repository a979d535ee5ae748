// Shows frames on a Wayland compositor through EGL, and listens itself to when each came onto the screen, on a queue of
// its own. It writes "frame moment_ns refresh" for each; -1 for one that never did.
//   wayland_program FRAMES EVERY_MS LOG
#include <EGL/egl.h>
#include <GL/gl.h>
#include <time.h>
#include <unistd.h>
#include <wayland-client.h>
#include <wayland-egl.h>

#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>

#include "presentation-time-client-protocol.h"
#include "xdg-shell-client-protocol.h"

namespace {

wl_compositor* compositor = nullptr;
wp_presentation* presentation = nullptr;
xdg_wm_base* shell = nullptr;
bool is_configured = false;
FILE* log_file = nullptr;

void onGlobal(void* /*data*/, wl_registry* registry, std::uint32_t name, const char* interface, std::uint32_t /*v*/) {
  if (std::strcmp(interface, "wl_compositor") == 0)
    compositor = static_cast<wl_compositor*>(wl_registry_bind(registry, name, &wl_compositor_interface, 4));
  if (std::strcmp(interface, "wp_presentation") == 0)
    presentation = static_cast<wp_presentation*>(wl_registry_bind(registry, name, &wp_presentation_interface, 1));
  if (std::strcmp(interface, "xdg_wm_base") == 0)
    shell = static_cast<xdg_wm_base*>(wl_registry_bind(registry, name, &xdg_wm_base_interface, 1));
}
void onRemoved(void* /*data*/, wl_registry* /*registry*/, std::uint32_t /*name*/) {}
const wl_registry_listener registry_listener{onGlobal, onRemoved};

void onConfigure(void* /*data*/, xdg_surface* surface, std::uint32_t serial) {
  xdg_surface_ack_configure(surface, serial);
  is_configured = true;
}
const xdg_surface_listener surface_listener{onConfigure};

void onPing(void* /*data*/, xdg_wm_base* base, std::uint32_t serial) { xdg_wm_base_pong(base, serial); }
const xdg_wm_base_listener shell_listener{onPing};

void onOutput(void* /*data*/, struct wp_presentation_feedback* /*feedback*/, wl_output* /*output*/) {}
void onPresented(void* data, struct wp_presentation_feedback* feedback, std::uint32_t /*high*/, std::uint32_t seconds,
                 std::uint32_t ns, std::uint32_t /*refresh*/, std::uint32_t /*count_high*/, std::uint32_t count,
                 std::uint32_t /*flags*/) {
  std::fprintf(log_file, "%ld %lld %u\n", reinterpret_cast<long>(data), seconds * 1000000000LL + ns, count);
  wp_presentation_feedback_destroy(feedback);
}
void onDiscarded(void* data, struct wp_presentation_feedback* feedback) {
  std::fprintf(log_file, "%ld -1 0\n", reinterpret_cast<long>(data));
  wp_presentation_feedback_destroy(feedback);
}
const wp_presentation_feedback_listener feedback_listener{onOutput, onPresented, onDiscarded};

}  // namespace

int main(int count, char** words) {
  if (count < 4) return 2;
  wl_display* display = wl_display_connect(nullptr);
  if (display == nullptr) return 3;
  log_file = std::fopen(words[3], "w");
  wl_registry* registry = wl_display_get_registry(display);
  wl_registry_add_listener(registry, &registry_listener, nullptr);
  wl_display_roundtrip(display);
  if (compositor == nullptr || presentation == nullptr || shell == nullptr) return 4;
  xdg_wm_base_add_listener(shell, &shell_listener, nullptr);
  wl_surface* surface = wl_compositor_create_surface(compositor);
  xdg_surface* shell_surface = xdg_wm_base_get_xdg_surface(shell, surface);
  xdg_surface_add_listener(shell_surface, &surface_listener, nullptr);
  (void)xdg_surface_get_toplevel(shell_surface);
  wl_surface_commit(surface);
  while (!is_configured) wl_display_dispatch(display);
  EGLDisplay egl = eglGetDisplay(reinterpret_cast<EGLNativeDisplayType>(display));
  if (eglInitialize(egl, nullptr, nullptr) == EGL_FALSE) return 5;
  eglBindAPI(EGL_OPENGL_API);
  const EGLint wanted[] = {EGL_RENDERABLE_TYPE, EGL_OPENGL_BIT, EGL_SURFACE_TYPE, EGL_WINDOW_BIT, EGL_NONE};
  EGLConfig config = nullptr;
  EGLint found = 0;
  eglChooseConfig(egl, wanted, &config, 1, &found);
  wl_egl_window* window = wl_egl_window_create(surface, 200, 120);
  EGLSurface drawn = eglCreateWindowSurface(egl, config, reinterpret_cast<EGLNativeWindowType>(window), nullptr);
  EGLContext context = eglCreateContext(egl, config, EGL_NO_CONTEXT, nullptr);
  eglMakeCurrent(egl, drawn, drawn, context);
  eglSwapInterval(egl, 0);
  const int frames = std::atoi(words[1]);
  for (long i = 0; i < frames; ++i) {
    glClearColor(static_cast<float>(i % 10) / 10, 0.3F, 0.5F, 1);
    glClear(GL_COLOR_BUFFER_BIT);
    struct wp_presentation_feedback* feedback = wp_presentation_feedback(presentation, surface);
    wp_presentation_feedback_add_listener(feedback, &feedback_listener, reinterpret_cast<void*>(i));
    eglSwapBuffers(egl, drawn);
    usleep(static_cast<useconds_t>(std::atoi(words[2])) * 1000);
    wl_display_roundtrip(display);
  }
  wl_display_roundtrip(display);
  std::fclose(log_file);
  return 0;
}
