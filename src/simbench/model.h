#pragma once

#include <vector>

#include "simbench/bench_state.h"

namespace simbench {

/// What one pass yields.
struct PassResult {
  std::vector<double> frame_ms;   ///< empty for a case whose result is a time
  double seconds = 0;             ///< length of the pass; the result where it is a time
  double load_s = 0;              ///< what loading took; 0 where the case does not tell
  int graphics_busy_percent = 0;  ///< the graphics board's share of the time
};

/// Simulates the pass number `state.runs` of a case. The model is described in docs/simulated-bench.md.
/// Same truth, levels, boots, runs and warmth: the same frames, bit for bit.
[[nodiscard]] PassResult simulatePass(const BenchState& state, const CaseTruth& a_case, const std::string& case_name);

}  // namespace simbench
