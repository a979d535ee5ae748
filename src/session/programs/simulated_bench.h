#pragma once

#include <string>
#include <vector>

#include "bench/bench_connection.h"
#include "core/values/result.h"

namespace session {

/// Runs the simulated bench's own program with these words, without a shell, and waits for its end.
/// Errors  Missing{program}; CommandFailed with what it complains of
core::Status runSimulatedBench(const std::string& folder, const std::vector<std::string>& words,
                               const bench::BenchConnection& bench);

}  // namespace session
