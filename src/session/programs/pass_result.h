#pragma once

#include <optional>
#include <string>
#include <vector>

#include "bench/bench_connection.h"
#include "core/record/pass.h"
#include "session/programs/frame_recorder.h"
#include "session/programs/played_stretch.h"
#include "session/programs/result_places.h"

namespace session {

/// A pass ready for filing, with its frames and what was sampled meanwhile.
struct MeasuredPass {
  core::Pass pass;
  std::vector<double> frame_ms;  ///< untrimmed; of a played pass those of the counted stretch
  core::Samples samples;
};

/// What a pass was to do.
struct PassOrder {
  core::Case a_case;
  std::vector<double> targets_fps{60};
  double time_limit_s = 600;
  std::string log_path;                     ///< where the command was to write its frame log
  const FrameRecorder* recorder = nullptr;  ///< where we record its frames
  FrameRecorder::Span span;                 ///< of them, what counts
  bool is_played = false;
  std::optional<LogStretch> stretch;     ///< where it was played to the end
  const ResultPlaces* places = nullptr;  ///< where its numbers stand, as it was before the pass; of one that started
};

/// Turns what a command did into a pass: finished with a value, or failed with a sentence that says what, where and
/// what to do. Slot, visit and attempt are left to the caller.
[[nodiscard]] MeasuredPass measurePass(const bench::CommandOutcome& outcome, const PassOrder& order);

/// Why a command did not do its work, as one error; nothing when it ended with code 0.
[[nodiscard]] std::optional<core::Error> failureOf(const bench::CommandOutcome& outcome, const std::string& where,
                                                   double time_limit_s);

}  // namespace session
