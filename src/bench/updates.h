#pragma once

#include <string>

#include "bench/bench_connection.h"

namespace bench {

/// The name of a program that is changing what is installed just now; empty where none is. It loads processor and disk,
/// and may change the very driver that is measured. Costs a few milliseconds: one small file a process.
[[nodiscard]] std::string runningUpdate(const BenchConnection& bench);

}  // namespace bench
