#pragma once

#include <string>

#include <nlohmann/json.hpp>

#include "core/values/result.h"
#include "simbench/bench_state.h"

namespace simbench {

/// What the probe would print on the simulated machine: `what` is memory, copy or compute. Five measurements of each
/// quantity, from what the machine shows, times its `yields`, with a spread of half a percent.
/// Same truth, levels, boots and runs: the same numbers, bit for bit. Errors  OutOfRange for another `what`
[[nodiscard]] core::Result<nlohmann::ordered_json> simulateMeasurement(const BenchState& state,
                                                                       const std::string& what);

}  // namespace simbench
