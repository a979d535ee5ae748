#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/values/result.h"

namespace store {

/// Packs frame times without loss: little-endian 64-bit floating point, their bytes grouped by significance, then zstd.
[[nodiscard]] std::string packFrames(std::span<const double> frame_ms);

/// The longest series that is kept: nine hours at 2,000 frames a second.
inline constexpr std::size_t kMostFrames = std::size_t{1} << 26;

/// How many bytes a text, or a series, unpacks to, by its own word; nothing where it was not packed by us. Nothing is
/// unpacked yet.
[[nodiscard]] std::optional<std::uint64_t> unpackedSize(std::string_view packed);

/// The inverse. `count`: how many frames there must be, where that was noted; nothing is unpacked beyond them.
/// Errors  DamagedFile for bytes that packFrames did not write
[[nodiscard]] core::Result<std::vector<double>> unpackFrames(std::string_view packed,
                                                             std::optional<std::int64_t> count = std::nullopt);

/// Text through the same compressor, up to 256 MiB. unpackText errors as unpackFrames
[[nodiscard]] std::string packText(std::string_view text);
[[nodiscard]] core::Result<std::string> unpackText(std::string_view packed);

}  // namespace store
