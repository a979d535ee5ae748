#pragma once

#include <vector>

#include "core/findings/findings.h"
#include "core/judgement/doubts.h"
#include "core/proof/proof.h"

namespace core {

/// Doubts that the numbers themselves raise: cases that cannot show the change, two opinions that part, more gained
/// than there was to gain. `proof` tells how much the resource gained.
[[nodiscard]] std::vector<Doubt> findingDoubts(const Study& study, const Findings& findings, const BenchProof& proof);

}  // namespace core
