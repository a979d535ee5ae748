#pragma once

#include <vector>

#include <nlohmann/json.hpp>

#include "core/findings/used.h"

namespace report {

/// What each level used, for scripts.
[[nodiscard]] nlohmann::ordered_json usedJson(const core::Study& study, const std::vector<core::Used>& used);

}  // namespace report
