// Another guest that stands around the same function, as overlays do, and says at the end what it saw.
#include <dlfcn.h>

#include <cstdio>
#include <cstdlib>

static long wrapped = 0;

extern "C" __attribute__((visibility("default"))) void glXSwapBuffers(void* display, unsigned long drawable) {
  static const auto next = reinterpret_cast<void (*)(void*, unsigned long)>(dlsym(RTLD_NEXT, "glXSwapBuffers"));
  ++wrapped;
  if (next != nullptr) next(display, drawable);
}

__attribute__((destructor)) static void tell() {
  const char* path = wrapped > 0 ? std::getenv("WRAPPED_LOG") : nullptr;
  if (path != nullptr)
    if (FILE* file = std::fopen(path, "w")) {
      std::fprintf(file, "%ld", wrapped);
      std::fclose(file);
    }
}
