#pragma once

#include <cstdint>
#include <string>

#include "core/values/result.h"

namespace session {

/// The SHA-256 of a file but for its last bytes, as 64 digits. Errors  Missing, Io
[[nodiscard]] core::Result<std::string> sha256Of(const std::string& path, std::uintmax_t without_last = 0);

}  // namespace session
