#pragma once

#include <cstdint>

namespace session {

/// What the program at the desk and the one at the bench speak; see docs/bench-end.md. A change that the other side
/// would take wrongly is a new number.
inline constexpr int kFarProtocol = 1;

/// Bytes; neither side takes a larger study from the other.
inline constexpr std::uint64_t kLargestStudy = 8ULL << 30;

}  // namespace session
