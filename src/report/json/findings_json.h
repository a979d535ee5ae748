#pragma once

#include <vector>

#include <nlohmann/json.hpp>

#include "core/judgement/judgement.h"

namespace report {

/// The findings of a study for scripts: the same numbers and words that the window shows.
[[nodiscard]] nlohmann::ordered_json findingsJson(const core::Study& study, const core::Record& record,
                                                  const core::Judgement& judgement);

}  // namespace report
