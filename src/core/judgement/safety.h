#pragma once

#include <span>
#include <string>

#include "core/findings/possible.h"
#include "core/findings/shape_findings.h"
#include "core/proof/step_proofs.h"
#include "core/record/record.h"

namespace core {

/// Whether the level that a study's headline is about can be used without a loss: "6000 MT/s is safe to use: no case
/// loses as much as matters", "Gen 4 is not safe to use: Ring pass loses 9.6 % at on", or why it is open. Percentages
/// alone do not make a level safe: it must not go beyond what the maker set, make errors that the machine counts, fail
/// more passes than the baseline, run a case no longer, or lack the test for errors that its kind asks for. A part that
/// one swaps as a whole is nothing that one leaves on: of it only what cases lose is said. Empty without a result.
/// Shapes  `steps`: what the captures say, for the errors that the machine counted; `possible`: of possibleOf
[[nodiscard]] std::string safetyText(const Study& study, const ShapeFindings& findings, const Record& record,
                                     std::span<const StepProof> steps, std::span<const PossibleAt> possible = {});

/// What stands in its place while a stop keeps the comparison from being one.
[[nodiscard]] std::string safetyWhileStopped(const Study& study);

}  // namespace core
