#pragma once

#include <exception>
#include <string>

#include "core/values/result.h"

namespace core {

/// A mistake of the program's own, thrown by itself or by a library: what is said where a program, or a thread of it,
/// catches it at its top. `where`: the study that was in hand; it may be empty.
[[nodiscard]] Error faultOf(const std::exception& thrown, std::string where);

}  // namespace core
