#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "core/frames/frame_metrics.h"
#include "core/frames/presentation.h"
#include "core/machine/samples.h"
#include "core/study/study.h"
#include "core/values/typed_value.h"

namespace core {

/// What the frames of one pass say beside the headline; worked out once when a pass is recorded or read.
struct FrameSummary {
  std::size_t frames = 0;  ///< after trimming
  double average_fps = 0;
  std::vector<Lows> lows;           ///< 1 % and 0.1 %
  double below_target_percent = 0;  ///< share of the time in frames slower than the study's first target rate
  double stutters_per_minute = 0;
  double capped_fps = 0;  ///< the rate that most frames keep; 0 where there is none
  LongFrames long_frames = {};
  double median_frame_ms = 0;
  std::vector<double> holding_percent = {};  ///< of the frames, those that hold each of the study's targets
};

/// Is it a moment, UTC in milliseconds since 1970, of a year that has four digits? Files may say anything.
[[nodiscard]] constexpr bool isMoment(std::int64_t ms) { return ms >= 0 && ms < 253'402'300'800'000; }

/// How a pass ended. Written into study files; never renumbered.
enum class PassStatus { Finished = 0, Failed = 1 };

/// How busy a graphics device was while a pass ran.
struct DeviceLoad {
  std::string device;  ///< PCI address
  double busy_percent = 0;

  bool operator==(const DeviceLoad&) const = default;
};

/// What a pass says beside its headline: a number, or why there is none.
struct FurtherValue {
  std::optional<double> value;
  std::string reason;  ///< one sentence; empty where there is a value

  bool operator==(const FurtherValue&) const = default;
};

/// One pass as it was recorded. Never changed afterwards.
struct Pass {
  std::int64_t id = 0;  ///< given by the study file
  std::int64_t visit_id = 0;
  std::size_t slot = 0;  ///< position in the schedule
  int attempt = 1;
  PassStatus status = PassStatus::Finished;
  std::string failure;          ///< one sentence: what, where, remedy; empty when finished
  std::int64_t started_ms = 0;  ///< UTC, milliseconds since 1970
  double duration_s = 0;
  std::optional<double> value;               ///< the headline metric, in its own unit; absent when failed
  std::vector<FurtherValue> further = {};    ///< as its case lists them; empty where it has none, or the pass failed
  std::string does_not_run = {};             ///< why its case is not possible there: then finished, without a value
  std::vector<std::string> conditions = {};  ///< of its case, those that it met, by name
  std::optional<FrameSummary> frames;        ///< from its frame log; absent where the result is a single number
  std::string output;                        ///< standard output, as captured
  std::string error_output;                  ///< standard error, as captured
  std::string companion_output = {};         ///< both of what ran beside it, as captured
  std::vector<DeviceLoad> loads;  ///< where the bench has several graphics devices and the pass was long enough
  std::optional<double> others_busy_percent;  ///< of one core, by programs that are not the pass
  std::string settings;                       ///< the text of the workload's settings file after the pass
  std::string excluded_because;               ///< the physical cause for which a person left it out; empty: it counts
  std::vector<ChannelSummary> samples;        ///< what was sampled while it ran, in a few numbers
  std::vector<UnreadChannel> unread = {};     ///< what its bench did not show meanwhile
  std::optional<double> throttled;            ///< how often a limit set in
  std::optional<Presentation> presentation = {};  ///< how its frames were shown, where we recorded them
  std::optional<TypedValue> typed = {};           ///< where a person typed the result
  std::string origin = {};                        ///< where an imported pass came from; empty: it ran here
  bool is_damaged = false;                        ///< the file's record of it does not hold; it counts nowhere
};

/// When in a visit the machine was read or measured. Written into study files; never renumbered.
enum class CaptureMoment {
  Start = 0,      ///< before the first pass
  UnderLoad = 1,  ///< while a pass ran: the only moment at which a link is to be trusted
  End = 2         ///< after the last pass
};

/// A stay at one level as it happened. An interrupted visit that was set up again is a visit of its own.
struct Visit {
  std::int64_t id = 0;
  int planned = 1;  ///< the planned visit it belongs to
  int round = 1;
  ConfigurationId configuration = ConfigurationId::Baseline;
  std::string boot_id;
  std::int64_t started_ms = 0;
  bool is_taken = false;  ///< it happened for an earlier study, and is in no round of this one
};

}  // namespace core
