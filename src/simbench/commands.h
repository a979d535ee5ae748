#pragma once

#include <ostream>

namespace simbench {

/// The whole command line: init, set, reboot, run. Results go to `out`, complaints to `err`.
/// Returns 0, 1 for a failure, 2 for a command line that cannot be understood.
int runCommandLine(int argc, const char* const* argv, std::ostream& out, std::ostream& err);

}  // namespace simbench
