#pragma once

#include <string>

#include <nlohmann/json.hpp>

#include "core/values/result.h"

namespace cli {

/// Are the numbers of an input what their names say, wherever they stand in it: confidences between 0 and 1, counts
/// that are whole and not below 0, intervals whose ends are in order? Errors  OutOfRange{the number's place}
[[nodiscard]] core::Status checkComputeInput(const nlohmann::json& input, const std::string& place);

}  // namespace cli
