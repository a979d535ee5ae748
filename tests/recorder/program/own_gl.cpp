// A GL library that a program brings along: it shows nothing and counts. Half of the matrix needs no display with it.
#include <time.h>

static long shown = 0;

extern "C" {
__attribute__((visibility("default"))) void glXSwapBuffers(void* /*display*/, unsigned long /*drawable*/) { ++shown; }
__attribute__((visibility("default"))) void sameUnderAnotherName(void* /*display*/, unsigned long /*drawable*/) {
  ++shown;
}
__attribute__((visibility("default"))) long framesShown() { return shown; }
}
