#pragma once

#include <ostream>

#include "cli/commands.h"
#include "session/sheet/session.h"

namespace cli {

/// Takes the approval that the options give, where a study does anything that nobody on this machine has approved, and
/// prints what that is, so that nobody approves unseen; a script names the digest of what it has read.
/// Errors  NotApproved: nothing is started; Io
core::Status approveOrExplain(session::Session& session, const RunOptions& options, std::ostream& out);

}  // namespace cli
