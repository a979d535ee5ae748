#pragma once

#include <map>
#include <optional>

#include "session/study/open_study.h"

namespace session {

/// Seconds that are left of each visit of the plan, by its number, from the durations measured so far, flips included;
/// empty before the first finished pass.
[[nodiscard]] std::map<int, double> secondsByVisit(const OpenStudy& open);
/// The same of the whole plan, `in_pass_s` into the pass in hand; nothing before the first finished pass.
[[nodiscard]] std::optional<double> secondsLeft(const OpenStudy& open, double in_pass_s);

}  // namespace session
