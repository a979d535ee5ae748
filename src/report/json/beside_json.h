#pragma once

#include <span>

#include <nlohmann/json.hpp>

#include "core/beside/beside.h"

namespace report {

/// Everything that is said of several studies, for scripts.
[[nodiscard]] nlohmann::ordered_json besideJson(const core::Beside& beside, std::span<const core::StudyAside> studies,
                                                const core::BesideOrder& order);

}  // namespace report
