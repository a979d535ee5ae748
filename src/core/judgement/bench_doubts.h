#pragma once

#include <vector>

#include "core/judgement/doubts.h"

namespace core {

/// What the captures, the measurements and the restarts make doubtful: did the variable move, is each level what it is
/// called, was each flip performed, and what moved besides.
[[nodiscard]] std::vector<Doubt> benchDoubts(const Study& study, const Record& record, const BenchProof& proof);

}  // namespace core
