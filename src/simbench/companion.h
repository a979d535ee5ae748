#pragma once

#include <ostream>
#include <string>

#include "core/values/result.h"

namespace simbench {

/// Runs beside the passes of the bench in that folder until it is asked to end: what the truth calls `beside` then
/// holds. It works on nothing. Errors  Missing where there is no bench
[[nodiscard]] core::Status runCompanion(const std::string& folder, std::ostream& out);

/// Does one run at this moment?
[[nodiscard]] bool hasCompanion(const std::string& folder);

}  // namespace simbench
