#pragma once

#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

#include "core/presentation.h"
#include "core/result.h"

namespace recorder {

/// What a ring holds beyond the first `from` frames.
struct RingContent {
  core::Presentation presenter;
  std::uint64_t written = 0;
  std::uint64_t lost = 0;           ///< of those beyond `from`: written over before they were read
  std::vector<std::int64_t> at_ns;  ///< CLOCK_MONOTONIC, rising
};

/// Reads the bytes of a ring. They come from another program: nothing in them is taken for granted.
/// Errors  Malformed: no ring, cut off, or its times run backwards
[[nodiscard]] core::Result<RingContent> parseRing(std::span<const std::byte> bytes, std::uint64_t from);

}  // namespace recorder
