// Stands around the functions by which OpenGL programs hand over frames, through GLX or EGL, and changes nothing. It
// knows them by their published signatures, so it needs no header and no library of theirs.
#include "recorder/guest/gl_hooks.h"

#include <dlfcn.h>

#include <cstdint>

#include "recorder/guest/gl_calls.h"
#include "recorder/guest/own_process.h"
#include "recorder/guest/real_functions.h"

#define RECORDER_EXPORT extern "C" __attribute__((visibility("default")))

namespace recorder {
namespace {

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
                             entry<GlxDestroyContext>(),
                             entry<EglDestroyContext>(),
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
  if (one == nullptr || isOurs(real)) return real;
  RingWriter::reserve();  // who asks for one of these will show frames
  return one->around(real);
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
// NOLINTNEXTLINE(readability-identifier-naming): the X library calls it so
RECORDER_EXPORT int XDestroyWindow(void* display, unsigned long window) {
  return calledByName<XDestroy>(CALLER, display, window);
}
RECORDER_EXPORT void glXDestroyContext(void* display, void* context) {
  calledByName<GlxDestroyContext>(CALLER, display, context);
}
RECORDER_EXPORT unsigned eglDestroyContext(void* display, void* context) {
  return calledByName<EglDestroyContext>(CALLER, display, context);
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

// Is the C library to answer, seeing the program as its caller? RTLD_NEXT depends on it. Behind us nothing of that name
// is ours; before us ours is what comes next, if there is a real one at all.
bool isForTheLibrary(void* handle, const char* name, const void* caller) {
  if (!isHooked(name) || !wanted().any()) return true;
  return handle == RTLD_NEXT && !(isLoadedBeforeUs(caller) && functionInScope(name, nullptr) == nullptr);
}

void* ourAnswer(void* handle, const char* name, const void* caller) {
  if (handle == RTLD_DEFAULT) return inCallersScope(name, caller);
  if (handle == RTLD_NEXT) return notFound(name);
  void* found = realDlsym()(handle, name);
  return isOurs(found) ? inCallersScope(name, caller) : hooked(name, found);
}

}  // namespace

// One compiler leaves by a jump where it optimises, the other wants to be told.
#if defined(__clang__)
#define LEAVE_BY_JUMP [[clang::musttail]] return
#else
#define LEAVE_BY_JUMP return
#endif

// Many programs load the library themselves and ask it for its functions: they get ours around exactly that one.
RECORDER_EXPORT void* dlsym(void* handle, const char* name) {
  if (isForTheLibrary(handle, name, CALLER)) LEAVE_BY_JUMP realDlsym()(handle, name);
  return ourAnswer(handle, name, CALLER);
}

RECORDER_EXPORT char* dlerror() { return programsError(); }

RECORDER_EXPORT int dlclose(void* handle) { return giveBack(handle); }

// The environment is read before the program has threads that could change it. One that is linked with what shows
// frames has its ring before its first line.
__attribute__((constructor)) static void begin() {
  if (!wanted().any()) return;
  const KeptError kept;
  for (const char* swap : {GlxSwap::name, EglSwap::name})
    if (functionInScope(swap, nullptr) != nullptr) return RingWriter::reserve();
}
