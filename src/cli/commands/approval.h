#pragma once

#include <ostream>

#include "cli/commands.h"
#include "session/sheet/session.h"

namespace cli {

/// Takes the approval that the options give, where a study does anything that nobody on this machine has approved, and
/// prints what that is, so that nobody approves unseen; a script names the digest of what it has read.
/// Errors  NotApproved: nothing is started; Io
/// `approve`: does it.
core::Status approveOrExplain(const session::Machine& machine, const std::string& study_path,
                              const std::function<core::Status()>& approve, const RunOptions& options,
                              std::ostream& out);
/// The same of a session's machine.
core::Status approveOrExplain(session::Session& session, const RunOptions& options, std::ostream& out);

}  // namespace cli
