#pragma once

namespace session {

/// What the program at the desk and the one at the bench speak; see docs/bench-end.md. A change that the other side
/// would take wrongly is a new number.
inline constexpr int kFarProtocol = 1;

}  // namespace session
