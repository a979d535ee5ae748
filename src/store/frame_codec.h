#pragma once

#include <span>
#include <string>
#include <vector>

#include "core/result.h"

namespace store {

/// Packs frame times without loss: little-endian 64-bit floating point, their bytes grouped by significance, then zstd.
[[nodiscard]] std::string packFrames(std::span<const double> frame_ms);

/// The inverse. Errors  DamagedFile for bytes that packFrames did not write
[[nodiscard]] core::Result<std::vector<double>> unpackFrames(std::string_view packed);

/// Text through the same compressor. unpackText errors as unpackFrames
[[nodiscard]] std::string packText(std::string_view text);
[[nodiscard]] core::Result<std::string> unpackText(std::string_view packed);

}  // namespace store
