#pragma once

#include <cmath>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <string_view>

#include <nlohmann/json.hpp>

namespace store {

/// JSON from outside: at most so large, so deeply nested, and with so many names in one object and values in all, so
/// that nobody's file can eat the stack, the memory or the day.
[[nodiscard]] bool isBoundedJson(std::string_view text);

/// Such a text as JSON; a discarded value for any other, on which `at` throws as on any value of a wrong type.
[[nodiscard]] nlohmann::ordered_json parseJson(std::string_view text);

/// The same with its objects sorted by name: many names are read in no more than its length asks for. `is_from_study`:
/// it may not have more values than any other text of a study; else as many as its bytes allow.
[[nodiscard]] nlohmann::json parseSortedJson(std::string_view text, bool is_from_study = false);

/// A whole number from outside: no other number is taken for one, and none is narrowed. Throws std::out_of_range
template <class Json>
[[nodiscard]] std::int64_t wholeNumberOf(const Json& value) {
  constexpr double kExact = 9007199254740992;  // whole numbers above are none of a double's
  if (value.is_number_float()) {
    const double number = value.template get<double>();
    if (number == std::floor(number) && std::abs(number) <= kExact) return static_cast<std::int64_t>(number);
  } else if (value.is_number_integer() &&
             !(value.is_number_unsigned() && value.template get<std::uint64_t>() > std::uint64_t{INT64_MAX})) {
    return value.template get<std::int64_t>();
  }
  throw std::out_of_range("a whole number is expected");
}

/// JSON in which signs that a terminal does not show as they are stand as \\u escapes: the same JSON.
[[nodiscard]] std::string withHiddenEscaped(std::string text);

/// JSON as text, valid whatever bytes its texts hold: what is no UTF-8 becomes replacement marks. `indent` below 0: one
/// line.
template <class Json>
[[nodiscard]] std::string jsonText(const Json& json, int indent = -1) {
  return withHiddenEscaped(json.dump(indent, ' ', false, Json::error_handler_t::replace));
}

}  // namespace store
