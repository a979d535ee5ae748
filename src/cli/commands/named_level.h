#pragma once

#include <string>

#include "core/study/study.h"
#include "core/values/result.h"

namespace cli {

/// The configuration that a person names. Errors  Missing, with the names that the study has; `where`: what said it
[[nodiscard]] core::Result<core::ConfigurationId> namedLevel(const core::Study& study, const std::string& name,
                                                             const std::string& where);

}  // namespace cli
