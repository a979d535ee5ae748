#pragma once

#include <optional>

#include <nlohmann/json.hpp>

namespace report {

/// A number that does not exist is null.
template <class T>
[[nodiscard]] nlohmann::ordered_json orNull(const std::optional<T>& value) {
  return value ? nlohmann::ordered_json(*value) : nlohmann::ordered_json();
}

}  // namespace report
