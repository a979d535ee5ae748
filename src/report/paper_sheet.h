#pragma once

#include <string>

#include "core/study/study.h"

namespace report {

/// The run sheet as a page of HTML to be printed, for a bench without a screen: each visit of the plan in order, what
/// is done before it, the points of its checklist with a box each, and a line for each pass. Before a visit stands what
/// the maker's manual warns of. The same study gives the same page
[[nodiscard]] std::string paperSheet(const core::Study& study);

}  // namespace report
