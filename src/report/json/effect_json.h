#pragma once

#include <string>

#include <nlohmann/json.hpp>

#include "core/estimate/effect.h"

namespace report {

/// An effect with all its evidence, in the fields of tests/vectors/effect_*.json. Numbers that do not exist are null.
/// `unit` decides whether rates and milliseconds are given; `flip_date` names the null study, if one was used.
[[nodiscard]] nlohmann::ordered_json effectJson(const core::Effect& effect, core::Direction direction,
                                                const std::string& unit, const std::string& flip_date = "");

}  // namespace report
