#pragma once

#include <span>
#include <vector>

#include "core/findings/further_results.h"
#include "core/judgement/doubts.h"

namespace core {

/// Doubts about results beside the headlines: one that should not respond and moves, one that passes do not say.
[[nodiscard]] std::vector<Doubt> furtherDoubts(const Study& study, std::span<const FurtherFinding> further);

}  // namespace core
