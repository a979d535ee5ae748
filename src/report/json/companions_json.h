#pragma once

#include <nlohmann/json.hpp>

#include "core/judgement/judgement.h"

namespace report {

/// Every case that the study has both with a companion and alone, for scripts.
[[nodiscard]] nlohmann::ordered_json companionsJson(const core::Study& study, const core::Judgement& judgement);

}  // namespace report
