#pragma once

#include <vector>

#include "bench/bench_connection.h"
#include "core/record/pass.h"

namespace bench {

/// How busy each graphics device is at this moment, as far as its driver says; a suspended one is not woken. By
/// address. Cost  a few small reads, well under 10 ms
[[nodiscard]] std::vector<core::DeviceLoad> graphicsLoads(const BenchConnection& bench);

}  // namespace bench
