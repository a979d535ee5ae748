#pragma once

#include <cstdint>
#include <string>
#include <string_view>

#include "core/values/result.h"

namespace session {

/// The SHA-256 of a file but for its last bytes, as 64 digits. Errors  Missing, Io
[[nodiscard]] core::Result<std::string> sha256Of(const std::string& path, std::uintmax_t without_last = 0);

/// The same of bytes.
[[nodiscard]] std::string sha256OfBytes(std::string_view bytes);

}  // namespace session
