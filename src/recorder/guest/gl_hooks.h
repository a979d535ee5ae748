#pragma once

namespace recorder {

/// What programs get for a function of the OpenGL interfaces that they asked for by name, where we stand around it:
/// ours, which calls `real`. Everything else comes back as it is.
[[nodiscard]] void* hooked(const char* name, void* real);
/// Do we stand around the function of that name?
[[nodiscard]] bool isHooked(const char* name);

}  // namespace recorder
