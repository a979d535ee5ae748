#pragma once

#include <nlohmann/json.hpp>

#include "core/estimate/claims.h"

namespace report {

/// Adds the p of the four nulls, each by itself and adjusted in its family: "p_gain", "p_gain_holm" and so on. Null
/// where there is none.
void addClaimPs(nlohmann::ordered_json& out, const core::Claimed& claim);

/// Adds what a contrast rests on: "d", "se", "df", "p"; null where it has no interval.
void addContrast(nlohmann::ordered_json& out, const core::Contrast& contrast);

}  // namespace report
