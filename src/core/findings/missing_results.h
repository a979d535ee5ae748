#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "core/findings/shape_cases.h"
#include "core/findings/shape_findings.h"

namespace core {

/// Every configuration at which a case, or all of them, has no counted pass, each with the reason that a person would
/// ask for; and the cells that a crossing leaves out.
[[nodiscard]] std::vector<MissingResult> missingResults(const Study& study, const Record& record,
                                                        std::span<const Slot> schedule,
                                                        std::span<const ComparableCase> cases,
                                                        std::span<const std::int64_t> retired_visits);

}  // namespace core
