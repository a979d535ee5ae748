#pragma once

#include "simbench/bench_state.h"
#include "simbench/model.h"

namespace simbench {

/// Writes into the fake tree what the machine shows of itself while this pass runs: load, power and memory of its
/// graphics board, memory in use, clocks. They follow the load of the pass, and vary a little from pass to pass.
void showUse(const BenchState& state, const PassResult& pass);

}  // namespace simbench
