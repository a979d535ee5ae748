#pragma once

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace cli {

/// The calculations of planning: a size for an aim, what a size buys, how long it takes. JSON in, JSON out.
/// Errors  those of nlohmann's accessors are thrown, for compute() to name the field
[[nodiscard]] core::Result<nlohmann::ordered_json> planningGroup(const nlohmann::json& input);

}  // namespace cli
