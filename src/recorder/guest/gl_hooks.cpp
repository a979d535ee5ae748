// Stands around the functions by which OpenGL programs hand over frames, through GLX or EGL, and changes nothing. It
// knows them by their published signatures, so it needs no header and no library of theirs.
#include "recorder/guest/gl_hooks.h"

#include <dlfcn.h>

#include <cstdint>

#include "recorder/guest/egl_surfaces.h"
#include "recorder/guest/gl_facts.h"
#include "recorder/guest/own_process.h"
#include "recorder/guest/streams.h"
#include "recorder/guest/thunks.h"

#define RECORDER_EXPORT extern "C" __attribute__((visibility("default")))

namespace recorder {
namespace {

Surface glxSurface(const void* display, unsigned long drawable) { return {"GLX", display, drawable}; }
Surface eglSurface(const void* display, const void* surface) {
  return {"EGL", display, static_cast<std::uint64_t>(reinterpret_cast<std::uintptr_t>(surface))};
}

// Calls the library, and notes the frame where it was taken.
template <class Describe, class Call>
auto handOver(const Surface& surface, const Describe& describe, const Call& call) {
  const Nesting nesting;
  const RingWriter::Frame frame = RingWriter::handOver();  // before the first one's ring is made
  Stream* stream = nesting.isOutermost() ? streamOf(surface) : nullptr;
  if (stream == nullptr) return call();
  if (!stream->is_described) {
    stream->is_described = true;
    describe(*stream);
  }
  describeInterval(*stream);
  if (stream->feedback) stream->feedback->beforeCommit();
  const auto taken = call();
  if (taken) stream->ring.returned(frame);
  return taken;
}

struct GlxSwap {
  static constexpr const char* name = "glXSwapBuffers";
  using Function = void(void*, unsigned long);
  static void around(Function* real, void* display, unsigned long drawable) {
    if (real == nullptr) return;
    handOver(
        glxSurface(display, drawable),
        [&](Stream& stream) { describeGlx(stream, reinterpret_cast<const void*>(real), display, drawable); },
        [&] {
          real(display, drawable);
          return true;
        });
  }
};

struct GlxSwapMsc {
  static constexpr const char* name = "glXSwapBuffersMscOML";
  using Function = std::int64_t(void*, unsigned long, std::int64_t, std::int64_t, std::int64_t);
  static std::int64_t around(Function* real, void* display, unsigned long drawable, std::int64_t target,
                             std::int64_t divisor, std::int64_t remainder) {
    if (real == nullptr) return -1;
    std::int64_t count = -1;
    handOver(
        glxSurface(display, drawable),
        [&](Stream& stream) { describeGlx(stream, reinterpret_cast<const void*>(real), display, drawable); },
        [&] {
          count = real(display, drawable, target, divisor, remainder);
          return count >= 0;
        });
    return count;
  }
};

template <class Call>
unsigned handOverEgl(const void* real, void* display, void* surface, const Call& call) {
  if (real == nullptr) return 0;
  return handOver(
      eglSurface(display, surface),
      [&](Stream& stream) {
        placeEgl(stream, display, surface);
        describeEgl(stream, real);
      },
      call);
}

struct EglSwap {
  static constexpr const char* name = "eglSwapBuffers";
  using Function = unsigned(void*, void*);
  static unsigned around(Function* real, void* display, void* surface) {
    return handOverEgl(reinterpret_cast<const void*>(real), display, surface, [&] { return real(display, surface); });
  }
};

// The two names of one extension: only part of the picture is new.
struct EglSwapDamageKhr {
  static constexpr const char* name = "eglSwapBuffersWithDamageKHR";
  using Function = unsigned(void*, void*, const int*, int);
  static unsigned around(Function* real, void* display, void* surface, const int* rects, int count) {
    return handOverEgl(reinterpret_cast<const void*>(real), display, surface,
                       [&] { return real(display, surface, rects, count); });
  }
};
struct EglSwapDamageExt : EglSwapDamageKhr {
  static constexpr const char* name = "eglSwapBuffersWithDamageEXT";
};

struct EglGetDisplay {
  static constexpr const char* name = "eglGetDisplay";
  using Function = void*(void*);
  static void* around(Function* real, void* native) {
    if (real == nullptr) return nullptr;
    void* display = real(native);
    noteEglDisplay(display, isWaylandDisplay(native) ? WindowSystem::Wayland : WindowSystem::Unknown, native);
    return display;
  }
};
struct EglGetPlatformDisplay {
  static constexpr const char* name = "eglGetPlatformDisplay";
  using Function = void*(unsigned, void*, const std::intptr_t*);
  static void* around(Function* real, unsigned platform, void* native, const std::intptr_t* attributes) {
    if (real == nullptr) return nullptr;
    void* display = real(platform, native, attributes);
    noteEglDisplay(display, windowSystemOf(platform), native);
    return display;
  }
};
struct EglGetPlatformDisplayExt : EglGetPlatformDisplay {
  static constexpr const char* name = "eglGetPlatformDisplayEXT";
};

struct EglCreateWindow {
  static constexpr const char* name = "eglCreateWindowSurface";
  using Function = void*(void*, void*, std::uintptr_t, const int*);
  static void* around(Function* real, void* display, void* config, std::uintptr_t window, const int* attributes) {
    if (real == nullptr) return nullptr;
    void* surface = real(display, config, window, attributes);
    noteEglWindow(display, surface, window);
    return surface;
  }
};
// For X it takes the place of the window's id, not the id.
std::uintptr_t windowAt(void* display, void* window) {
  const bool is_x = window != nullptr && windowSystemOf(display) == WindowSystem::X;
  return is_x ? *static_cast<const unsigned long*>(window) : reinterpret_cast<std::uintptr_t>(window);
}
struct EglCreatePlatformWindow {
  static constexpr const char* name = "eglCreatePlatformWindowSurface";
  using Function = void*(void*, void*, void*, const std::intptr_t*);
  static void* around(Function* real, void* display, void* config, void* window, const std::intptr_t* attributes) {
    if (real == nullptr) return nullptr;
    void* surface = real(display, config, window, attributes);
    noteEglWindow(display, surface, windowAt(display, window));
    return surface;
  }
};
struct EglCreatePlatformWindowExt : EglCreatePlatformWindow {
  static constexpr const char* name = "eglCreatePlatformWindowSurfaceEXT";
};

struct EglDestroySurface {
  static constexpr const char* name = "eglDestroySurface";
  using Function = unsigned(void*, void*);
  static unsigned around(Function* real, void* display, void* surface) {
    if (real == nullptr) return 0;
    endSurface(eglSurface(display, surface));
    forgetEglWindow(display, surface);
    return real(display, surface);
  }
};

struct GlxDestroyWindow {
  static constexpr const char* name = "glXDestroyWindow";
  using Function = void(void*, unsigned long);
  static void around(Function* real, void* display, unsigned long window) {
    if (real == nullptr) return;
    endSurface(glxSurface(display, window));
    real(display, window);
  }
};
// GLX draws on plain windows too.
struct XDestroy {
  static constexpr const char* name = "XDestroyWindow";
  using Function = int(void*, unsigned long);
  static int around(Function* real, void* display, unsigned long window) {
    if (real == nullptr) return 0;
    endSurface(glxSurface(display, window));
    return real(display, window);
  }
};

struct GlxIntervalExt {
  static constexpr const char* name = "glXSwapIntervalEXT";
  using Function = void(void*, unsigned long, int);
  static void around(Function* real, void* display, unsigned long drawable, int interval) {
    if (real == nullptr) return;
    real(display, drawable, interval);
    setSwapInterval(interval);
  }
};
struct GlxIntervalMesa {
  static constexpr const char* name = "glXSwapIntervalMESA";
  using Function = int(int);
  static int around(Function* real, int interval) {
    const int code = real == nullptr ? 1 : real(interval);
    if (code == 0) setSwapInterval(interval);
    return code;
  }
};
struct GlxIntervalSgi : GlxIntervalMesa {
  static constexpr const char* name = "glXSwapIntervalSGI";
};
struct EglInterval {
  static constexpr const char* name = "eglSwapInterval";
  using Function = unsigned(void*, int);
  static unsigned around(Function* real, void* display, int interval) {
    const unsigned taken = real == nullptr ? 0 : real(display, interval);
    if (taken != 0) setSwapInterval(interval);
    return taken;
  }
};

struct GlxGetAddressArb {
  static constexpr const char* name = "glXGetProcAddressARB";
  using Function = void*(const char*);
  static void* around(Function* real, const char* wanted) {
    return real == nullptr ? nullptr : hooked(wanted, real(wanted));
  }
};
struct GlxGetAddress : GlxGetAddressArb {
  static constexpr const char* name = "glXGetProcAddress";
};
struct EglGetAddress : GlxGetAddressArb {
  static constexpr const char* name = "eglGetProcAddress";
};

struct Entry {
  const char* name;
  void* (*around)(void* real);
};

template <class Hook>
constexpr Entry entry() {
  return {Hook::name, [](void* real) {
            using Function = typename Hook::Function;
            return reinterpret_cast<void*>(Thunks<Hook>::around(reinterpret_cast<Function*>(real)));
          }};
}

constexpr Entry entries[] = {entry<GlxSwap>(),
                             entry<GlxSwapMsc>(),
                             entry<EglSwap>(),
                             entry<EglSwapDamageKhr>(),
                             entry<EglSwapDamageExt>(),
                             entry<EglGetDisplay>(),
                             entry<EglGetPlatformDisplay>(),
                             entry<EglGetPlatformDisplayExt>(),
                             entry<EglCreateWindow>(),
                             entry<EglCreatePlatformWindow>(),
                             entry<EglCreatePlatformWindowExt>(),
                             entry<EglDestroySurface>(),
                             entry<GlxDestroyWindow>(),
                             entry<XDestroy>(),
                             entry<GlxIntervalExt>(),
                             entry<GlxIntervalMesa>(),
                             entry<GlxIntervalSgi>(),
                             entry<EglInterval>(),
                             entry<GlxGetAddressArb>(),
                             entry<GlxGetAddress>(),
                             entry<EglGetAddress>()};

// By hand: dlsym is asked before the program's own strcmp, which it may have wrapped, can be called.
bool isSame(const char* a, const char* b) {
  for (; *a != '\0' && *a == *b; ++a, ++b) {
  }
  return *a == *b;
}

const Entry* find(const char* name) {
  if (name == nullptr) return nullptr;
  for (const Entry& one : entries)
    if (isSame(one.name, name)) return &one;
  return nullptr;
}

// Programs that are linked with a library call its functions by their names, and find ours before them.
template <class Hook, class... Arguments>
auto calledByName(const void* caller, Arguments... arguments) {
  return Hook::around(behindUs<Hook>(caller), arguments...);
}

}  // namespace

void* hooked(const char* name, void* real) {
  if (real == nullptr || !wanted().any()) return real;
  const Entry* one = find(name);
  return one == nullptr || isOurs(real) ? real : one->around(real);
}

bool isHooked(const char* name) { return find(name) != nullptr; }

}  // namespace recorder

using namespace recorder;
#define CALLER __builtin_extract_return_addr(__builtin_return_address(0))

RECORDER_EXPORT void glXSwapBuffers(void* display, unsigned long drawable) {
  calledByName<GlxSwap>(CALLER, display, drawable);
}
RECORDER_EXPORT std::int64_t glXSwapBuffersMscOML(void* display, unsigned long drawable, std::int64_t target,
                                                  std::int64_t divisor, std::int64_t remainder) {
  return calledByName<GlxSwapMsc>(CALLER, display, drawable, target, divisor, remainder);
}
RECORDER_EXPORT unsigned eglSwapBuffers(void* display, void* surface) {
  return calledByName<EglSwap>(CALLER, display, surface);
}
RECORDER_EXPORT unsigned eglSwapBuffersWithDamageKHR(void* display, void* surface, const int* rects, int count) {
  return calledByName<EglSwapDamageKhr>(CALLER, display, surface, rects, count);
}
RECORDER_EXPORT unsigned eglSwapBuffersWithDamageEXT(void* display, void* surface, const int* rects, int count) {
  return calledByName<EglSwapDamageExt>(CALLER, display, surface, rects, count);
}
RECORDER_EXPORT void* eglGetDisplay(void* native) { return calledByName<EglGetDisplay>(CALLER, native); }
RECORDER_EXPORT void* eglGetPlatformDisplay(unsigned platform, void* native, const std::intptr_t* attributes) {
  return calledByName<EglGetPlatformDisplay>(CALLER, platform, native, attributes);
}
RECORDER_EXPORT void* eglCreateWindowSurface(void* display, void* config, std::uintptr_t window,
                                             const int* attributes) {
  return calledByName<EglCreateWindow>(CALLER, display, config, window, attributes);
}
RECORDER_EXPORT void* eglCreatePlatformWindowSurface(void* display, void* config, void* window,
                                                     const std::intptr_t* attributes) {
  return calledByName<EglCreatePlatformWindow>(CALLER, display, config, window, attributes);
}
RECORDER_EXPORT unsigned eglDestroySurface(void* display, void* surface) {
  return calledByName<EglDestroySurface>(CALLER, display, surface);
}
RECORDER_EXPORT unsigned eglSwapInterval(void* display, int interval) {
  return calledByName<EglInterval>(CALLER, display, interval);
}
RECORDER_EXPORT void glXDestroyWindow(void* display, unsigned long window) {
  calledByName<GlxDestroyWindow>(CALLER, display, window);
}
RECORDER_EXPORT int XDestroyWindow(void* display, unsigned long window) {
  return calledByName<XDestroy>(CALLER, display, window);
}
RECORDER_EXPORT void glXSwapIntervalEXT(void* display, unsigned long drawable, int interval) {
  calledByName<GlxIntervalExt>(CALLER, display, drawable, interval);
}
RECORDER_EXPORT int glXSwapIntervalMESA(int interval) { return calledByName<GlxIntervalMesa>(CALLER, interval); }
RECORDER_EXPORT int glXSwapIntervalSGI(int interval) { return calledByName<GlxIntervalSgi>(CALLER, interval); }
RECORDER_EXPORT void* glXGetProcAddressARB(const char* name) { return calledByName<GlxGetAddressArb>(CALLER, name); }
RECORDER_EXPORT void* glXGetProcAddress(const char* name) { return calledByName<GlxGetAddress>(CALLER, name); }
RECORDER_EXPORT void* eglGetProcAddress(const char* name) { return calledByName<EglGetAddress>(CALLER, name); }

namespace {

// RTLD_DEFAULT means the first function of that name in the caller's scope; ours is the first only because we are here.
void* inCallersScope(const char* name, const void* caller) {
  void* first = realDlsym()(RTLD_DEFAULT, name);
  if (first != nullptr && !isOurs(first)) return first;
  if (void* real = functionInScope(name, caller)) return hooked(name, real);
  return notFound(name);
}

}  // namespace

// Many programs load the library themselves and ask it for its functions: they get ours around exactly that one. The
// last call leaves by a jump, so that the C library sees the program as its caller: RTLD_NEXT depends on it.
RECORDER_EXPORT void* dlsym(void* handle, const char* name) {
  if (!isHooked(name) || !wanted().any()) return realDlsym()(handle, name);
  if (handle == RTLD_DEFAULT) return inCallersScope(name, CALLER);
  if (handle == RTLD_NEXT) {
    // Behind us nothing of that name is ours; before us ours is what comes next, if there is a real one at all.
    if (isLoadedBeforeUs(CALLER) && functionInScope(name, nullptr) == nullptr) return notFound(name);
    return realDlsym()(handle, name);
  }
  void* found = realDlsym()(handle, name);
  return isOurs(found) ? inCallersScope(name, CALLER) : hooked(name, found);
}

// The environment is read before the program has threads that could change it.
__attribute__((constructor)) static void readEnvironment() { (void)wanted(); }
