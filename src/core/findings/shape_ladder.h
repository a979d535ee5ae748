#pragma once

#include "core/findings/shape_cases.h"
#include "core/findings/shape_findings.h"

namespace core {

/// How far each step carries. `findings`: with its contrasts, of which the steps are, and its resources.
[[nodiscard]] LadderFinding ladderOf(const Comparable& of, const Study& study, const ShapeFindings& findings);

/// Where the loss goes; nothing while a configuration has no result.
[[nodiscard]] std::optional<ChainFinding> chainOf(const Comparable& of, const Study& study);

}  // namespace core
