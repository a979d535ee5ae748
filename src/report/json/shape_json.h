#pragma once

#include <nlohmann/json.hpp>

#include "core/estimate/transfer_model.h"
#include "core/judgement/judgement.h"

namespace report {

/// A transfer model as `compute` and `findings --json` print it.
[[nodiscard]] nlohmann::ordered_json transferJson(const core::TransferModel& model);

/// Adds what a study of any shape says: `shape`, `contrasts`, `ladder`, `chain`, `missing`, and the proof of each step.
/// Sealed results are left out; what is not defined is null.
void addShape(nlohmann::ordered_json& out, const core::Study& study, const core::Judgement& judgement);

}  // namespace report
