#pragma once

#include <nlohmann/json.hpp>

#include "core/judgement/judgement.h"

namespace report {

/// Every result of a case between the two configurations that are compared, the headline first, for scripts.
/// `headline`: the finding of the case
[[nodiscard]] nlohmann::ordered_json resultsJson(const core::Study& study, const core::Judgement& judgement,
                                                 const core::CaseFinding& headline);

}  // namespace report
