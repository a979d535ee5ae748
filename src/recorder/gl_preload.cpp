// Preloaded into an OpenGL program that the session starts: notes when it hands over each frame, through GLX or EGL,
// and changes nothing. It knows the interfaces by their published signatures, so it needs no header and no library of
// theirs.
#include <dlfcn.h>

#include <cstring>
#include <map>
#include <memory>
#include <mutex>
#include <utility>

#include "recorder/ring_writer.h"

namespace {

using recorder::RingWriter;
using Function = void (*)();

constexpr int kGlxWidth = 0x801D;
constexpr int kGlxHeight = 0x801E;
constexpr int kEglHeight = 0x3056;
constexpr int kEglWidth = 0x3057;
constexpr unsigned kGlRenderer = 0x1F01;

using Dlsym = void* (*)(void*, const char*);

// The C library's own dlsym: ours stands in front of it.
Dlsym realDlsym() {
  static const Dlsym real = [] {
    for (const char* version : {"GLIBC_2.34", "GLIBC_2.17", "GLIBC_2.2.5"})
      if (void* found = dlvsym(RTLD_NEXT, "dlsym", version)) return reinterpret_cast<Dlsym>(found);
    return Dlsym{nullptr};
  }();
  return real;
}

// A function of a library that may have been loaded privately: found next to us, or by its name.
void* realFunction(const char* name, const char* library) {
  if (void* found = realDlsym()(RTLD_NEXT, name)) return found;
  void* loaded = dlopen(library, RTLD_LAZY | RTLD_NOLOAD);
  return loaded != nullptr ? realDlsym()(loaded, name) : nullptr;
}
void* glx(const char* name) { return realFunction(name, "libGL.so.1"); }
void* egl(const char* name) { return realFunction(name, "libEGL.so.1"); }

const char* renderer(void* (*library)(const char*)) {
  using GetString = const unsigned char* (*)(unsigned);
  auto get_string = reinterpret_cast<GetString>(library("glGetString"));
  if (get_string == nullptr) get_string = reinterpret_cast<GetString>(realFunction("glGetString", "libGLESv2.so.2"));
  return get_string != nullptr ? reinterpret_cast<const char*>(get_string(kGlRenderer)) : nullptr;
}

// One ring for each window; what it says of the window is looked up once, and now and then after.
struct Window {
  std::unique_ptr<RingWriter> ring;
  unsigned frames = 0;
};
std::mutex guard;
std::map<std::pair<const void*, unsigned long>, Window> windows;

template <class SizeOf>
void present(const char* interface, const void* display, unsigned long surface, void* (*library)(const char*),
             SizeOf size_of) {
  constexpr unsigned kLookAgain = 256;
  if (!recorder::isWanted()) return;
  const std::lock_guard lock(guard);
  Window& window = windows[{display, surface}];
  if (!window.ring) {
    window.ring = std::make_unique<RingWriter>(interface);
    window.ring->describe(renderer(library), "");
  }
  if (window.frames++ % kLookAgain == 0) {
    const auto [width, height] = size_of();
    window.ring->resize(width, height);
  }
  window.ring->present();
}

}  // namespace

#define RECORDER_EXPORT extern "C" __attribute__((visibility("default")))

RECORDER_EXPORT void glXSwapBuffers(void* display, unsigned long drawable) {
  static const auto real = reinterpret_cast<void (*)(void*, unsigned long)>(glx("glXSwapBuffers"));
  present("GLX", display, drawable, glx, [&] {
    using Query = void (*)(void*, unsigned long, int, unsigned*);
    static const auto query = reinterpret_cast<Query>(glx("glXQueryDrawable"));
    std::pair<unsigned, unsigned> size{0, 0};
    if (query != nullptr) {
      query(display, drawable, kGlxWidth, &size.first);
      query(display, drawable, kGlxHeight, &size.second);
    }
    return size;
  });
  if (real != nullptr) real(display, drawable);
}

static void presentEgl(void* display, void* surface) {
  present("EGL", display, reinterpret_cast<unsigned long>(surface), egl, [&] {
    using Query = unsigned (*)(void*, void*, int, int*);
    static const auto query = reinterpret_cast<Query>(egl("eglQuerySurface"));
    int width = 0;
    int height = 0;
    if (query != nullptr) {
      query(display, surface, kEglWidth, &width);
      query(display, surface, kEglHeight, &height);
    }
    return std::pair<unsigned, unsigned>(static_cast<unsigned>(width), static_cast<unsigned>(height));
  });
}

RECORDER_EXPORT unsigned eglSwapBuffers(void* display, void* surface) {
  static const auto real = reinterpret_cast<unsigned (*)(void*, void*)>(egl("eglSwapBuffers"));
  presentEgl(display, surface);
  return real != nullptr ? real(display, surface) : 0;
}

// The two names of one extension: only part of the picture is new.
using SwapWithDamage = unsigned (*)(void*, void*, const int*, int);
static SwapWithDamage realSwapWithDamage(const char* name) {
  using GetProcAddress = Function (*)(const char*);
  const auto get = reinterpret_cast<GetProcAddress>(egl("eglGetProcAddress"));
  return get != nullptr ? reinterpret_cast<SwapWithDamage>(get(name)) : nullptr;
}
RECORDER_EXPORT unsigned eglSwapBuffersWithDamageKHR(void* display, void* surface, const int* rects, int count) {
  static const SwapWithDamage real = realSwapWithDamage("eglSwapBuffersWithDamageKHR");
  presentEgl(display, surface);
  return real != nullptr ? real(display, surface, rects, count) : 0;
}
RECORDER_EXPORT unsigned eglSwapBuffersWithDamageEXT(void* display, void* surface, const int* rects, int count) {
  static const SwapWithDamage real = realSwapWithDamage("eglSwapBuffersWithDamageEXT");
  presentEgl(display, surface);
  return real != nullptr ? real(display, surface, rects, count) : 0;
}

RECORDER_EXPORT Function glXGetProcAddress(const unsigned char* name);
RECORDER_EXPORT Function glXGetProcAddressARB(const unsigned char* name);
RECORDER_EXPORT Function eglGetProcAddress(const char* name);

// Ours by its name, where a program asks for it at run time; nothing for every other name.
static void* ours(const char* name) {
  struct Entry {
    const char* name;
    void* function;
  };
#define ENTRY(function) \
  { #function, reinterpret_cast < void*>(function) }
  static const Entry entries[] = {ENTRY(glXSwapBuffers),
                                  ENTRY(eglSwapBuffers),
                                  ENTRY(eglSwapBuffersWithDamageKHR),
                                  ENTRY(eglSwapBuffersWithDamageEXT),
                                  ENTRY(glXGetProcAddress),
                                  ENTRY(glXGetProcAddressARB),
                                  ENTRY(eglGetProcAddress)};
  for (const Entry& entry : entries)
    if (std::strcmp(entry.name, name) == 0) return entry.function;
  return nullptr;
}

RECORDER_EXPORT Function glXGetProcAddressARB(const unsigned char* name) {
  using GetProcAddress = Function (*)(const unsigned char*);
  static const auto real = reinterpret_cast<GetProcAddress>(glx("glXGetProcAddressARB"));
  if (void* found = ours(reinterpret_cast<const char*>(name))) return reinterpret_cast<Function>(found);
  return real != nullptr ? real(name) : nullptr;
}
RECORDER_EXPORT Function glXGetProcAddress(const unsigned char* name) { return glXGetProcAddressARB(name); }
RECORDER_EXPORT Function eglGetProcAddress(const char* name) {
  using GetProcAddress = Function (*)(const char*);
  static const auto real = reinterpret_cast<GetProcAddress>(egl("eglGetProcAddress"));
  if (void* found = ours(name)) return reinterpret_cast<Function>(found);
  return real != nullptr ? real(name) : nullptr;
}

// Many programs load the library themselves and ask it for its functions. Where it has the function, they get ours. The
// last call leaves by a jump, so that the C library sees the program as its caller.
RECORDER_EXPORT void* dlsym(void* handle, const char* name) {
  if (void* found = ours(name)) return realDlsym()(handle, name) != nullptr ? found : nullptr;
  return realDlsym()(handle, name);
}
