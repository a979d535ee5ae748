#pragma once

#include <string>

#include "core/values/result.h"
#include "session/open_study.h"

namespace session {

/// Keeps a study's file under another name from now on: copied and synced first, then removed where it was, so that no
/// moment is without it. What was opened is of no use any more: open it anew.
/// Errors  Busy: somebody runs it; Io: the name is taken, or it cannot be copied or removed; it stays where it was
[[nodiscard]] core::Status moveStudy(OpenStudy& open, const std::string& path);

}  // namespace session
