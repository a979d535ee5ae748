#pragma once

#include <vector>

#include <nlohmann/json.hpp>

#include "core/findings/possible.h"

namespace report {

/// At which configurations each case is possible, for scripts.
[[nodiscard]] nlohmann::ordered_json possibleJson(const core::Study& study,
                                                  const std::vector<core::PossibleAt>& possible);

}  // namespace report
