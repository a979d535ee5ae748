#pragma once

#include <cstdint>
#include <string>

namespace core {

/// A moment in milliseconds since 1970 as ISO 8601 has it, in whole seconds: "2026-05-12T10:00:00Z".
[[nodiscard]] std::string utcText(std::int64_t ms);
/// Its day: "2026-05-12".
[[nodiscard]] std::string utcDayText(std::int64_t ms);

}  // namespace core
