#pragma once

#include <string>

#include <nlohmann/json.hpp>

#include "report/report.h"

namespace report {

/// A row for each pass in the order in which they ran: what, where, when, its value, whether it counts and why not,
/// where it came from; then a column for the median of each channel that was sampled, and for each further result.
/// What is sealed is left empty.
[[nodiscard]] std::string passesCsv(const core::Study& study, const core::Record& record,
                                    const core::Judgement& judgement, const std::string& name);

/// A row for each case and each contrast of findingsJson, with its keys; what lies within a key is named with a point
/// between, a list stands in one cell.
[[nodiscard]] std::string findingsCsv(const nlohmann::ordered_json& findings, const std::string& name);

}  // namespace report
