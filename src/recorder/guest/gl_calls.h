#pragma once

#include <cstdint>

#include "recorder/guest/egl_surfaces.h"
#include "recorder/guest/gl_facts.h"
#include "recorder/guest/gl_hooks.h"
#include "recorder/guest/streams.h"
#include "recorder/guest/thunks.h"

/// What stands around each function of GLX and EGL by which a program hands over frames, or that tells of them: its
/// name, its published signature, and `around`, which calls the real one.
namespace recorder {

inline Surface glxSurface(const void* display, unsigned long drawable) { return {"GLX", display, drawable}; }
inline Surface eglSurface(const void* display, const void* surface) {
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
  if (stream->timer) stream->timer->beforeSwap(stream->ring);
  const auto taken = call();
  if (taken) stream->ring.returned(frame);
  if (stream->timer) stream->timer->afterSwap();
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
    RingWriter::reserve();
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
    RingWriter::reserve();
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
inline std::uintptr_t windowAt(void* display, void* window) {
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

struct GlxDestroyContext {
  static constexpr const char* name = "glXDestroyContext";
  using Function = void(void*, void*);
  static void around(Function* real, void* display, void* context) {
    if (real == nullptr) return;
    GlTimer::forgetContexts();
    real(display, context);
  }
};
struct EglDestroyContext {
  static constexpr const char* name = "eglDestroyContext";
  using Function = unsigned(void*, void*);
  static unsigned around(Function* real, void* display, void* context) {
    if (real == nullptr) return 0;
    GlTimer::forgetContexts();
    return real(display, context);
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

}  // namespace recorder
