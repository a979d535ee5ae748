// An engine that is linked with its own GL library and loaded by a small program.
extern "C" {
void glXSwapBuffers(void* display, unsigned long drawable);
long framesShown();
__attribute__((visibility("default"))) void engineSwap(unsigned long window) {
  glXSwapBuffers(nullptr, window);
  asm volatile("");  // no jump: the engine is the caller
}
__attribute__((visibility("default"))) long engineShown() { return framesShown(); }
}
