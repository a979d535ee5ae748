#pragma once

#include <optional>
#include <string>

#include "core/study/study.h"
#include "store/json/fields.h"

namespace store {

// The parts of a design's JSON that are not read and written by a list of fields alone. Readers keep the first thing
// that is wrong, with its place, in `error`, and go on.

/// `study` has its variables and configurations. Where the design leaves the order out it is drawn here, once.
[[nodiscard]] core::Plan readPlan(const DesignJson& object, const core::Study& study,
                                  std::optional<core::Error>& error);
[[nodiscard]] DesignJson planJson(const core::Plan& plan);

/// Shape, variables and configurations, in the long form or in the short one of a pair (`variable`, `levels`).
void readVariables(const DesignJson& object, core::Study& study, std::optional<core::Error>& error);
void addVariables(DesignJson& object, const core::Study& study);

}  // namespace store
