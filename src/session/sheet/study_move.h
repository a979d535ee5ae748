#pragma once

#include <string>

#include "core/values/result.h"
#include "session/sheet/session.h"

namespace session {

/// Keeps a study's file under another name from now on: copied and synced first, then removed where it was, so that no
/// moment is without it. What was opened is of no use any more: open it anew.
/// Errors  Busy: somebody runs it, or has it open elsewhere, where it would go on with a file that is gone; Io: the
/// name is taken, or it cannot be copied or removed; it stays where it was
[[nodiscard]] core::Status moveStudy(Session& session, const std::string& path);

}  // namespace session
