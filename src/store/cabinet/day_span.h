#pragma once

#include <cstdint>
#include <optional>
#include <string_view>

namespace store {

/// So many days, as somebody looks for them. UTC, milliseconds since 1970; the end is not in it.
struct DaySpan {
  std::int64_t from_ms = 0;
  std::int64_t until_ms = 0;
};

/// "2026-11" and "2026-11-25" are a month and a day; "2025..2026-03", "2026-03..", "..2025" are from one to another,
/// both in it, or open at an end. Nothing for any other word, a bare year among them: it is a word like others.
[[nodiscard]] std::optional<DaySpan> daySpanOf(std::string_view word);

}  // namespace store
