#pragma once

#include <string>
#include <vector>

#include "bench/bench_connection.h"
#include "core/pass.h"

namespace session {

/// A pass ready for filing, with its untrimmed frames.
struct MeasuredPass {
  core::Pass pass;
  std::vector<double> frame_ms;
};

/// Turns what a command did into a pass: finished with a value, or failed with a sentence that says what, where and
/// what to do. Slot, visit and attempt are left to the caller. `log_path` is where the command was to write its frame
/// log.
[[nodiscard]] MeasuredPass measurePass(const bench::CommandOutcome& outcome, const core::Case& a_case,
                                       double target_fps, double time_limit_s, const std::string& log_path);

/// Why a command did not do its work, as one error; nothing when it ended with code 0.
[[nodiscard]] std::optional<core::Error> failureOf(const bench::CommandOutcome& outcome, const std::string& where,
                                                   double time_limit_s);

}  // namespace session
