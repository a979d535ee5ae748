#pragma once

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace cli {

/// The groups about several cases: raw data of cases that share their visits, and effects from visits of their own.
/// Their input and output are the objects of the vector files. Errors as compute
[[nodiscard]] core::Result<nlohmann::ordered_json> sharedSuiteGroup(const nlohmann::json& input);
[[nodiscard]] core::Result<nlohmann::ordered_json> separateSuiteGroup(const nlohmann::json& input);

}  // namespace cli
