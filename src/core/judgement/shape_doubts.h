#pragma once

#include <vector>

#include "core/findings/shape_findings.h"
#include "core/judgement/doubts.h"

namespace core {

/// Doubts that only more than two configurations can raise: a step that moves two variables at once, a stronger level
/// that is slower, a level without a result, groups under different drivers, steps whose resource nobody knows.
[[nodiscard]] std::vector<Doubt> shapeDoubts(const Study& study, const ShapeFindings& findings, const Record& record);

}  // namespace core
