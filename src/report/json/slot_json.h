#pragma once

#include <nlohmann/json.hpp>
#include <optional>
#include <string>

#include "core/study/schedule.h"

namespace report {

/// A planned pass as scripts know it: visit, round, level, case, is_warm_up, number; null where there is none.
[[nodiscard]] nlohmann::ordered_json slotJson(const core::Study& study, std::span<const core::Slot> schedule,
                                              std::optional<std::size_t> slot);

/// "visit 3, pass 2 of Ring pass, 4K dome at 6000 MT/s".
[[nodiscard]] std::string slotText(const core::Study& study, const core::Slot& slot);

}  // namespace report
