#pragma once

#include <string>

namespace session {

/// The person at this machine, for the record: $IRON_LEVER_PERSON, else the login name.
[[nodiscard]] std::string personAtThisMachine();

/// The name of this computer; empty where it has none.
[[nodiscard]] std::string hostName();

}  // namespace session
