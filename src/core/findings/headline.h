#pragma once

#include "core/findings/findings.h"

namespace core {

/// The case that stands for a study in one line where no suite does: the only one that is to respond. A control beside
/// it tells of accidents, not of the variable. Null with a suite, without a result, and where several cases are to
/// respond: then one of them does not stand for the others.
[[nodiscard]] const CaseFinding* headlineCase(const Study& study, const Findings& findings);

/// Of the suite, or of that case; not settled where there is neither.
[[nodiscard]] Verdict headlineVerdict(const Study& study, const Findings& findings);

}  // namespace core
