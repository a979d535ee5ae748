// Shows so many frames through GLX or EGL and says how many.
//   --egl           through EGL
//   --loads LIB     asks that library for the swap function at run time, as many programs do
//   --every MS      waits after each frame
//   --anew N        closes its window and opens another after every N frames
//   --log FILE      writes when it called, in nanoseconds
//   --load N        covers the picture N times in each frame, asks OpenGL how long that takes, and says so
#include <EGL/egl.h>
#include <GL/gl.h>
#include <GL/glext.h>
#include <GL/glx.h>
#include <X11/Xlib.h>
#include <dlfcn.h>
#include <time.h>
#include <unistd.h>

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <memory>
#include <vector>

namespace {

struct Size {
  unsigned width;
  unsigned height;
};
// The software device draws tile by tile, and each tile stamps its own time: one tile, where times are compared.
constexpr Size kUsual{200, 120};
constexpr Size kOneTile{64, 64};

Window windowOn(Display* display, const XVisualInfo& visual, const Size& size) {
  const Window root = DefaultRootWindow(display);
  XSetWindowAttributes attributes{};
  attributes.colormap = XCreateColormap(display, root, visual.visual, AllocNone);
  const Window window = XCreateWindow(display, root, 0, 0, size.width, size.height, 0, visual.depth, InputOutput,
                                      visual.visual, CWColormap, &attributes);
  XStoreName(display, window, "rings of light");
  XMapWindow(display, window);
  XSync(display, False);
  return window;
}

struct Options {
  int frames = 100;
  bool is_egl = false;
  const char* library = nullptr;
  int every_ms = 0;
  int anew = 0;
  const char* log = nullptr;
  int load = 0;
  [[nodiscard]] const Size& size() const { return load > 0 ? kOneTile : kUsual; }
};

// How long the device works on what is drawn, as a program asks for it itself.
class OwnQueries {
 public:
  explicit OwnQueries(int frames) : queries_(static_cast<std::size_t>(frames)) { generate_(frames, queries_.data()); }
  void draw(int frame, int load) {
    begin_(GL_TIME_ELAPSED, queries_[static_cast<std::size_t>(frame)]);
    for (int i = 0; i < load; ++i) glRectf(-1, -1, 1, static_cast<float>(1 - (i % 2)));
    end_(GL_TIME_ELAPSED);
  }
  // In the middle, as the recorder tells it too: on a busy machine a few frames take many times as long.
  [[nodiscard]] double middleMs() const {
    std::vector<GLuint64> times(queries_.size());
    for (std::size_t i = 0; i < times.size(); ++i) read_(queries_[i], GL_QUERY_RESULT, &times[i]);
    const auto middle = times.begin() + static_cast<std::ptrdiff_t>(times.size() / 2);
    std::nth_element(times.begin(), middle, times.end());
    return static_cast<double>(*middle) / 1e6;
  }

 private:
  template <class Function>
  static Function found(const char* name) {
    return reinterpret_cast<Function>(glXGetProcAddressARB(reinterpret_cast<const GLubyte*>(name)));
  }
  std::vector<GLuint> queries_;
  PFNGLGENQUERIESPROC generate_ = found<PFNGLGENQUERIESPROC>("glGenQueries");
  PFNGLBEGINQUERYPROC begin_ = found<PFNGLBEGINQUERYPROC>("glBeginQuery");
  PFNGLENDQUERYPROC end_ = found<PFNGLENDQUERYPROC>("glEndQuery");
  PFNGLGETQUERYOBJECTUI64VPROC read_ = found<PFNGLGETQUERYOBJECTUI64VPROC>("glGetQueryObjectui64v");
};
std::unique_ptr<OwnQueries> own_queries;

void begin(const Options& options) {
  if (options.load > 0) own_queries = std::make_unique<OwnQueries>(options.frames);
}
void say(const Options& options) {
  if (own_queries)
    std::printf("{\"frames\": %d, \"device_ms\": %f, \"gl_error\": %u}\n", options.frames, own_queries->middleMs(),
                glGetError());
  else
    std::printf("{\"frames\": %d}\n", options.frames);
}

void draw(int frame, const Options& options) {
  glClearColor(static_cast<float>(frame % 10) / 10, 0.3F, 0.5F, 1);
  glClear(GL_COLOR_BUFFER_BIT);
  if (own_queries) own_queries->draw(frame, options.load);
}

std::vector<long long> called;
void noteCall() {
  timespec now{};
  clock_gettime(CLOCK_MONOTONIC, &now);
  called.push_back(now.tv_sec * 1000000000LL + now.tv_nsec);
}

int showThroughGlx(Display* display, const Options& options) {
  int wanted[] = {GLX_RGBA, GLX_DOUBLEBUFFER, None};
  XVisualInfo* visual = glXChooseVisual(display, DefaultScreen(display), wanted);
  if (visual == nullptr) return 1;
  Window window = windowOn(display, *visual, options.size());
  GLXContext context = glXCreateContext(display, visual, nullptr, True);
  glXMakeCurrent(display, window, context);
  begin(options);
  using Swap = void (*)(Display*, GLXDrawable);
  Swap swap = glXSwapBuffers;
  if (options.library != nullptr)
    swap = reinterpret_cast<Swap>(dlsym(dlopen(options.library, RTLD_LAZY | RTLD_LOCAL), "glXSwapBuffers"));
  for (int i = 0; i < options.frames; ++i) {
    if (options.anew > 0 && i > 0 && i % options.anew == 0) {
      glXMakeCurrent(display, None, nullptr);
      XDestroyWindow(display, window);
      window = windowOn(display, *visual, options.size());
      glXMakeCurrent(display, window, context);
    }
    draw(i, options);
    noteCall();
    swap(display, window);
    usleep(static_cast<useconds_t>(options.every_ms) * 1000);
  }
  say(options);
  return 0;
}

int showThroughEgl(Display* display, const Options& options) {
  EGLDisplay egl = eglGetDisplay(reinterpret_cast<EGLNativeDisplayType>(display));
  eglInitialize(egl, nullptr, nullptr);
  eglBindAPI(EGL_OPENGL_API);
  const EGLint wanted[] = {EGL_RENDERABLE_TYPE, EGL_OPENGL_BIT, EGL_SURFACE_TYPE, EGL_WINDOW_BIT, EGL_NONE};
  EGLConfig config = nullptr;
  EGLint count = 0;
  if (eglChooseConfig(egl, wanted, &config, 1, &count) == EGL_FALSE || count == 0) return 1;
  EGLint id = 0;
  eglGetConfigAttrib(egl, config, EGL_NATIVE_VISUAL_ID, &id);
  XVisualInfo pattern{};
  pattern.visualid = static_cast<VisualID>(id);
  int found = 0;
  XVisualInfo* visual = XGetVisualInfo(display, VisualIDMask, &pattern, &found);
  if (visual == nullptr) return 1;
  const Window window = windowOn(display, *visual, options.size());
  EGLSurface surface = eglCreateWindowSurface(egl, config, window, nullptr);
  EGLContext context = eglCreateContext(egl, config, EGL_NO_CONTEXT, nullptr);
  eglMakeCurrent(egl, surface, surface, context);
  begin(options);
  for (int i = 0; i < options.frames; ++i) {
    if (options.anew > 0 && i > 0 && i % options.anew == 0) {
      eglMakeCurrent(egl, EGL_NO_SURFACE, EGL_NO_SURFACE, EGL_NO_CONTEXT);
      eglDestroySurface(egl, surface);
      surface = eglCreateWindowSurface(egl, config, window, nullptr);
      eglMakeCurrent(egl, surface, surface, context);
    }
    draw(i, options);
    noteCall();
    eglSwapBuffers(egl, surface);
    usleep(static_cast<useconds_t>(options.every_ms) * 1000);
  }
  say(options);
  return 0;
}

}  // namespace

int main(int count, char** words) {
  Options options;
  for (int i = 1; i < count; ++i) {
    if (std::strcmp(words[i], "--egl") == 0)
      options.is_egl = true;
    else if (std::strcmp(words[i], "--loads") == 0)
      options.library = words[++i];
    else if (std::strcmp(words[i], "--every") == 0)
      options.every_ms = std::atoi(words[++i]);
    else if (std::strcmp(words[i], "--anew") == 0)
      options.anew = std::atoi(words[++i]);
    else if (std::strcmp(words[i], "--load") == 0)
      options.load = std::atoi(words[++i]);
    else if (std::strcmp(words[i], "--log") == 0)
      options.log = words[++i];
    else
      options.frames = std::atoi(words[i]);
  }
  Display* display = XOpenDisplay(nullptr);
  if (display == nullptr) return 2;
  const int code = options.is_egl ? showThroughEgl(display, options) : showThroughGlx(display, options);
  if (options.log != nullptr) {
    FILE* log = std::fopen(options.log, "w");
    for (const long long ns : called) std::fprintf(log, "%lld\n", ns);
    std::fclose(log);
  }
  return code;
}
