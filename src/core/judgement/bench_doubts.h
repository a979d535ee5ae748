#pragma once

#include <vector>

#include "core/judgement/doubts.h"

namespace core {

/// What the captures, the measurements and the restarts make doubtful between two configurations: did the variable
/// move, is each level what it is called, was each flip performed, and what moved besides. What has one cause over
/// several steps is said by stepDoubts.
[[nodiscard]] std::vector<Doubt> benchDoubts(const Study& study, const Record& record, const BenchProof& proof);

/// The differences in one sentence, the first three of them: the rest is on the bench page.
[[nodiscard]] std::string joinedDifferences(const std::vector<Difference>& differences);

}  // namespace core
