#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/record/null_record.h"

namespace store {

/// A null study's values as JSON: {"date": "2026-11-25", "cases": [{"case": "…", "visits": [[90.1, 90.4], …]}]}.
[[nodiscard]] std::string nullRecordToJson(const core::NullRecord& record);
/// Nothing where the text is not that.
[[nodiscard]] std::optional<core::NullRecord> nullRecordFromJson(const std::string& text);

/// The values of one case's visits as a list of lists.
[[nodiscard]] std::string visitsToJson(const std::vector<std::vector<double>>& visits);
/// Empty where the text is not that.
[[nodiscard]] std::vector<std::vector<double>> visitsFromJson(const std::string& text);

}  // namespace store
