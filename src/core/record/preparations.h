#pragma once

#include <string>
#include <vector>

#include "core/study/study.h"

namespace core {

/// What a person sees to before the first pass, so that the sheet is not held up half way: who has to be there, what
/// has to be found out, what must not disturb. A sentence each, the most pressing first.
[[nodiscard]] std::vector<std::string> preparationsFor(const Study& study);

}  // namespace core
