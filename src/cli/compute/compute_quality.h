#pragma once

#include <nlohmann/json.hpp>

#include "core/estimate/effect.h"
#include "core/values/result.h"

namespace cli {

/// The groups about the quality of passes, and about more than the plan: their input and output are the objects of the
/// vector files. Errors as compute
[[nodiscard]] core::Result<nlohmann::ordered_json> oddPassGroup(const nlohmann::json& input);
[[nodiscard]] core::Result<nlohmann::ordered_json> driftGroup(const nlohmann::json& input);
[[nodiscard]] core::Result<nlohmann::ordered_json> warmUpGroup(const nlohmann::json& input);
/// Of an effect that was estimated already.
[[nodiscard]] core::Result<nlohmann::ordered_json> extensionJson(const nlohmann::json& input,
                                                                 const core::Effect& effect);

}  // namespace cli
