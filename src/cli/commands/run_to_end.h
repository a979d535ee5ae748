#pragma once

#include <functional>

#include "cli/exit_code.h"
#include "session/sheet/session.h"

namespace cli {

/// Runs a session in the event loop until it is finished, held, waits for a person, or is stopped: by Ctrl+C, a hangup,
/// or nobody who reads any more. Calls `on_pass` for every pass filed; false from it stops. `is_resumed`: after a
/// restart, with nobody there. Errors: those of Session::start, and what the session is held by
[[nodiscard]] core::Result<ExitCode> runToEnd(session::Session& session,
                                              const std::function<bool(const core::Pass&)>& on_pass,
                                              bool is_resumed = false);

}  // namespace cli
