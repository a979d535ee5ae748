// Shows so many frames through GLX or EGL and says how many. "--loads" asks the library for its functions at run time,
// as many programs do.
#include <EGL/egl.h>
#include <GL/gl.h>
#include <GL/glx.h>
#include <X11/Xlib.h>
#include <dlfcn.h>

#include <cstdio>
#include <cstdlib>
#include <cstring>

namespace {

constexpr unsigned kWidth = 200;
constexpr unsigned kHeight = 120;

Window windowOn(Display* display, const XVisualInfo& visual) {
  const Window root = DefaultRootWindow(display);
  XSetWindowAttributes attributes{};
  attributes.colormap = XCreateColormap(display, root, visual.visual, AllocNone);
  const Window window = XCreateWindow(display, root, 0, 0, kWidth, kHeight, 0, visual.depth, InputOutput, visual.visual,
                                      CWColormap, &attributes);
  XMapWindow(display, window);
  XSync(display, False);
  return window;
}

void draw(int frame) {
  glClearColor(static_cast<float>(frame % 10) / 10, 0.3F, 0.5F, 1);
  glClear(GL_COLOR_BUFFER_BIT);
}

int showThroughGlx(Display* display, int frames, bool loads) {
  int wanted[] = {GLX_RGBA, GLX_DOUBLEBUFFER, None};
  XVisualInfo* visual = glXChooseVisual(display, DefaultScreen(display), wanted);
  if (visual == nullptr) return 1;
  const Window window = windowOn(display, *visual);
  GLXContext context = glXCreateContext(display, visual, nullptr, True);
  glXMakeCurrent(display, window, context);
  using Swap = void (*)(Display*, GLXDrawable);
  Swap swap = glXSwapBuffers;
  if (loads) swap = reinterpret_cast<Swap>(dlsym(dlopen("libGL.so.1", RTLD_LAZY | RTLD_LOCAL), "glXSwapBuffers"));
  for (int i = 0; i < frames; ++i) {
    draw(i);
    swap(display, window);
  }
  return 0;
}

int showThroughEgl(Display* display, int frames) {
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
  const Window window = windowOn(display, *visual);
  EGLSurface surface = eglCreateWindowSurface(egl, config, window, nullptr);
  EGLContext context = eglCreateContext(egl, config, EGL_NO_CONTEXT, nullptr);
  eglMakeCurrent(egl, surface, surface, context);
  for (int i = 0; i < frames; ++i) {
    draw(i);
    eglSwapBuffers(egl, surface);
  }
  return 0;
}

}  // namespace

int main(int count, char** words) {
  int frames = 100;
  bool is_egl = false;
  bool loads = false;
  for (int i = 1; i < count; ++i) {
    if (std::strcmp(words[i], "--egl") == 0)
      is_egl = true;
    else if (std::strcmp(words[i], "--loads") == 0)
      loads = true;
    else
      frames = std::atoi(words[i]);
  }
  Display* display = XOpenDisplay(nullptr);
  if (display == nullptr) return 2;
  const int code = is_egl ? showThroughEgl(display, frames) : showThroughGlx(display, frames, loads);
  if (code == 0) std::printf("{\"frames\": %d}\n", frames);
  return code;
}
