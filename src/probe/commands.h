#pragma once

#include <ostream>

namespace probe {

/// The whole command line. Results go to `out` as one JSON object, complaints to `err`.
/// Returns 0, 1 for a failure, 2 for a command line that cannot be understood.
int runCommandLine(int argc, const char* const* argv, std::ostream& out, std::ostream& err);

}  // namespace probe
