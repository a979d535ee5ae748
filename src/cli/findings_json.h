#pragma once

#include <vector>

#include <nlohmann/json.hpp>

#include "core/doubts.h"
#include "core/findings.h"

namespace cli {

/// The findings of a study for scripts: the same numbers and words that the window shows.
[[nodiscard]] nlohmann::ordered_json findingsJson(const core::Study& study, const core::Findings& findings,
                                                  const std::vector<core::Doubt>& doubts);

}  // namespace cli
