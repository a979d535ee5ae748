#pragma once

#include <nlohmann/json.hpp>

#include "core/beside/same_question.h"
#include "core/beside/table_aside.h"

namespace cli {

/// Rows of several studies beside each other; `names`: of the studies.
[[nodiscard]] nlohmann::ordered_json rowsAsideJson(const std::vector<core::RowAside>& rows,
                                                   std::span<const core::StudyAside> studies);
[[nodiscard]] nlohmann::ordered_json tableAsideJson(const core::TableAside& table);
[[nodiscard]] nlohmann::ordered_json factsAsideJson(const std::vector<core::FactAside>& facts);

}  // namespace cli
