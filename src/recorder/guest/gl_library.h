#pragma once

namespace recorder {

/// The library through which a program hands over frames. `swap` is its own function that does; its others are found
/// beside it. A search takes microseconds: keep what it finds.
struct GlLibrary {
  const void* swap = nullptr;
  const char* current_context = nullptr;  ///< the name of its function that tells the context
  const char* get_address = nullptr;      ///< and of the one that finds OpenGL's own

  static GlLibrary glx(const void* swap) { return {swap, "glXGetCurrentContext", "glXGetProcAddressARB"}; }
  static GlLibrary egl(const void* swap) { return {swap, "eglGetCurrentContext", "eglGetProcAddress"}; }

  /// A function of the window system's. Null where there is none.
  template <class Function>
  [[nodiscard]] Function* function(const char* name) const {
    return reinterpret_cast<Function*>(find(name));
  }
  /// A function of OpenGL: beside the window system's, or by its own way of asking, which may answer for one that the
  /// context does not have.
  template <class Function>
  [[nodiscard]] Function* glFunction(const char* name) const {
    return reinterpret_cast<Function*>(findGl(name));
  }

 private:
  [[nodiscard]] void* find(const char* name) const;
  [[nodiscard]] void* findGl(const char* name) const;
};

}  // namespace recorder
