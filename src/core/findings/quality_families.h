#pragma once

#include <span>

#include "core/findings/findings.h"

namespace core {

/// What is doubtful of the passes, in families: of clean studies at most one in twenty shows any doubt of one kind,
/// however many cases it has. Drift, warm-up and odd passes are a family each, Holm in it; what does not survive is not
/// said. Odd visits are told of the odd passes.
void judgeQuality(std::span<CaseFinding> cases);

}  // namespace core
