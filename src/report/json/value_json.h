#pragma once

#include <vector>

#include <nlohmann/json.hpp>

#include "core/findings/value.h"

namespace report {

/// What each contrast of the headline brings for its price, for scripts.
[[nodiscard]] nlohmann::ordered_json valueJson(const core::Study& study, const std::vector<core::Value>& values);

}  // namespace report
