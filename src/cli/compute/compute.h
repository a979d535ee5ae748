#pragma once

#include <string>
#include <vector>

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace cli {

/// The groups of calculations that `compute` knows, in alphabetical order.
[[nodiscard]] std::vector<std::string> computeGroups();

/// Runs one calculation of the core on a JSON object and answers with one.
/// Shapes  the `input` and `expected` objects of the files in tests/vectors/, whose README lists every field
/// Errors  Missing for an unknown group (the remedy lists the known ones); Missing or Malformed with the field's name;
///         whatever the calculation itself refuses
[[nodiscard]] core::Result<nlohmann::ordered_json> compute(const std::string& group, const nlohmann::json& input);

}  // namespace cli
