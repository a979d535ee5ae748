#pragma once

#include <string>

#include "core/study/study.h"

namespace session {

/// The command with "{log}" replaced by where the pass is to write its frame log.
[[nodiscard]] core::ExactCommand withLogPath(core::ExactCommand exact, const std::string& path);

}  // namespace session
