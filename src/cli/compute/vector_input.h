#pragma once

#include <optional>
#include <vector>

#include <nlohmann/json.hpp>

#include "core/estimate/effect.h"
#include "core/values/result.h"

namespace cli {

// What the input objects of the vector files have in common. A key that is missing or of the wrong kind throws
// nlohmann::json::exception; compute() turns that into an error.

[[nodiscard]] core::Direction directionOf(const nlohmann::json& input);
/// A null study's s_f with its df, where the input has one.
[[nodiscard]] std::optional<core::FlipSd> flipOf(const nlohmann::json& input);
[[nodiscard]] std::vector<std::vector<double>> nestedNumbers(const nlohmann::json& list);

/// "baseline" and "changed" as passes of one visit each, or as visits of passes; "rounds" as pairs of visits.
[[nodiscard]] std::vector<core::VisitValues> flatVisits(const nlohmann::json& input);
[[nodiscard]] std::vector<core::VisitValues> nestedVisits(const nlohmann::json& input);
[[nodiscard]] std::vector<core::VisitValues> roundVisits(const nlohmann::json& input);

/// The effect of what "design" says: passes, visits, or rounds, the latter also as "round_differences" only.
[[nodiscard]] core::Result<core::Effect> designedEffect(const nlohmann::json& input);

}  // namespace cli
