#pragma once

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace cli {

/// The groups about more than two levels and more than one variable: their input and output are the objects of the
/// vector files. Errors as compute
[[nodiscard]] core::Result<nlohmann::ordered_json> enoughPointGroup(const nlohmann::json& input);
[[nodiscard]] core::Result<nlohmann::ordered_json> ladderGroup(const nlohmann::json& input);
[[nodiscard]] core::Result<nlohmann::ordered_json> factorialGroup(const nlohmann::json& input);
[[nodiscard]] core::Result<nlohmann::ordered_json> lossGroup(const nlohmann::json& input);
[[nodiscard]] core::Result<nlohmann::ordered_json> contrastGroup(const nlohmann::json& input);
[[nodiscard]] core::Result<nlohmann::ordered_json> transferGroup(const nlohmann::json& input);

}  // namespace cli
