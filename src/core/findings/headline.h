#pragma once

#include "core/findings/findings.h"

namespace core {

/// What a line speaks of: the suite as nothing, or a case.
using Subject = std::optional<std::size_t>;

/// Of what a study speaks in its headline, in order: the suite where there is one, then the cases that should respond
/// and that no suite sums up, since their unit is another; without a suite each case that should respond. A control
/// tells of accidents, not of the variable, and is spoken of only where it is alone.
[[nodiscard]] std::vector<Subject> headlineSubjects(const Study& study, bool has_suite);

/// The case that stands for a study in one line where no suite does: the only one of which its headline speaks. Null
/// with a suite, without a result, and where several cases are to respond: then one of them does not stand for the
/// others.
[[nodiscard]] const CaseFinding* headlineCase(const Study& study, const Findings& findings);

/// Of the suite, or of that case; not settled where there is neither.
[[nodiscard]] Verdict headlineVerdict(const Study& study, const Findings& findings);

}  // namespace core
