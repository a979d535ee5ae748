#pragma once

#include <nlohmann/json.hpp>

#include "core/findings/told_change.h"

namespace report {

/// Adds `improvement_percent` and `difference`, each with its ends; null what there is not.
void addChange(nlohmann::ordered_json& out, const core::ToldChange& change);

}  // namespace report
