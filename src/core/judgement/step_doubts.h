#pragma once

#include <span>
#include <vector>

#include "core/judgement/doubts.h"
#include "core/proof/step_proofs.h"
#include "core/record/record.h"

namespace core {

/// What the steps of a study, each between two of its configurations, let doubt of the bench. One cause is one doubt,
/// in however many steps and visits it shows.
[[nodiscard]] std::vector<Doubt> stepDoubts(const Study& study, const Record& record, std::span<const StepProof> steps);

}  // namespace core
