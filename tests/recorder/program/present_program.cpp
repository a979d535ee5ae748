// Shows pictures through the X server's Present extension, as graphics drivers do, from a swap function of its own, and
// listens itself to when each came onto the screen. It writes "serial moment_us refresh skipped" for each.
//   present_program FRAMES EVERY_MS BURST LOG
#include <xcb/present.h>
#include <xcb/xcb.h>

#include <dlfcn.h>
#include <unistd.h>

#include <cstdint>
#include <cstdio>
#include <cstdlib>

namespace {

xcb_connection_t* server = nullptr;
xcb_window_t window = 0;
xcb_pixmap_t pixmap = 0;
std::uint32_t serial = 0;

}  // namespace

// What a driver's library does; found by dlsym, as a library's function would be.
extern "C" __attribute__((visibility("default"))) unsigned eglSwapBuffers(void* /*display*/, void* /*surface*/) {
  if (serial == 0) usleep(400000);  // whoever listens has come by then, and hears of the first one too
  xcb_present_pixmap(server, window, pixmap, ++serial, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, nullptr);
  xcb_flush(server);
  return 1;
}
extern "C" __attribute__((visibility("default"))) void* eglCreateWindowSurface(void* /*display*/, void* /*config*/,
                                                                               std::uintptr_t /*window*/,
                                                                               const int* /*attributes*/) {
  return &window;
}

int main(int count, char** words) {
  if (count < 5) return 2;
  server = xcb_connect(nullptr, nullptr);
  const xcb_screen_t* screen = xcb_setup_roots_iterator(xcb_get_setup(server)).data;
  window = xcb_generate_id(server);
  xcb_create_window(server, XCB_COPY_FROM_PARENT, window, screen->root, 0, 0, 200, 120, 0,
                    XCB_WINDOW_CLASS_INPUT_OUTPUT, screen->root_visual, 0, nullptr);
  xcb_map_window(server, window);
  pixmap = xcb_generate_id(server);
  xcb_create_pixmap(server, screen->root_depth, pixmap, window, 200, 120);
  xcb_present_select_input(server, xcb_generate_id(server), window, XCB_PRESENT_EVENT_MASK_COMPLETE_NOTIFY);
  // A library's functions, asked for at run time.
  void* self = dlopen(nullptr, RTLD_NOW);
  using Create = void* (*)(void*, void*, std::uintptr_t, const int*);
  using Swap = unsigned (*)(void*, void*);
  const auto create = reinterpret_cast<Create>(dlsym(self, "eglCreateWindowSurface"));
  const auto swap = reinterpret_cast<Swap>(dlsym(self, "eglSwapBuffers"));
  void* surface = create(nullptr, nullptr, window, nullptr);
  swap(nullptr, surface);
  const int frames = std::atoi(words[1]);
  const int burst = std::atoi(words[3]);
  for (int i = 1; i < frames; ++i) {
    swap(nullptr, surface);
    if (i % burst == 0) usleep(static_cast<useconds_t>(std::atoi(words[2])) * 1000);
  }
  usleep(300000);
  FILE* log = std::fopen(words[4], "w");
  while (xcb_generic_event_t* event = xcb_poll_for_event(server)) {
    const auto* shown = reinterpret_cast<const xcb_present_complete_notify_event_t*>(event);
    if ((event->response_type & 0x7F) == XCB_GE_GENERIC && shown->event_type == XCB_PRESENT_COMPLETE_NOTIFY)
      std::fprintf(log, "%u %llu %llu %d\n", shown->serial, static_cast<unsigned long long>(shown->ust),
                   static_cast<unsigned long long>(shown->msc), shown->mode == XCB_PRESENT_COMPLETE_MODE_SKIP);
    std::free(event);
  }
  std::fclose(log);
  return 0;
}
