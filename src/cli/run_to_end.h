#pragma once

#include <functional>

#include "session/session.h"

namespace cli {

/// Runs a session in the event loop until it is finished, held or stopped by Ctrl+C. Calls `on_pass` for every pass
/// filed. `is_resumed`: after a restart, with nobody there. Errors: those of Session::start, and what the session is
/// held by
core::Status runToEnd(session::Session& session, const std::function<void(const core::Pass&)>& on_pass,
                      bool is_resumed = false);

}  // namespace cli
