#pragma once

#include <nlohmann/json.hpp>

#include "core/desk/desk.h"

namespace cli {

/// An answer of the desk by its keys; null where a number is not defined.
[[nodiscard]] nlohmann::ordered_json deskJson(const std::vector<core::DeskValue>& answer);

/// {"ask": …, and its numbers}: the answer by its keys.
[[nodiscard]] core::Result<nlohmann::ordered_json> deskGroup(const nlohmann::json& input);

}  // namespace cli
