#pragma once

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace cli {

/// What verdicts of several cases claim, each null with its p and adjusted in its family.
[[nodiscard]] core::Result<nlohmann::ordered_json> claimsGroup(const nlohmann::json& input);

/// A contrast of rounds of several configurations that share their spread.
[[nodiscard]] core::Result<nlohmann::ordered_json> sharedSpreadGroup(const nlohmann::json& input);

/// What a second study says of a contrast over what a first says.
[[nodiscard]] core::Result<nlohmann::ordered_json> studyDifferenceGroup(const nlohmann::json& input);

}  // namespace cli
