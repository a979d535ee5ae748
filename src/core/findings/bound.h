#pragma once

#include <array>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/machine/variable_kind.h"
#include "core/record/case_passes.h"
#include "core/record/pass.h"

namespace core {

/// Channels of recorded frames that tell of a bound, in ms a frame.
constexpr const char* kThreadTime = "thread time a frame";      ///< processor time of the thread that hands over
constexpr const char* kDeviceTime = "device time a frame";      ///< the graphics device's work on it
constexpr const char* kHandOverWait = "wait at the hand-over";  ///< within the call itself

/// What held a pass back, from what was sampled while it ran.
enum class Bound { Graphics, Processor, LinkSuspected, PowerOrHeat, GraphicsMemory, Capped, Undecided, NotKnown };
/// "graphics-bound", "capped", …
[[nodiscard]] const char* boundName(Bound bound);

/// A bound with the numbers that it rests on, as a sentence part: "graphics 98 % busy, busiest core 61 %".
struct BoundFinding {
  Bound bound = Bound::NotKnown;
  std::string evidence;
};

/// "the graphics device (97 % busy)"; the bound alone where nothing shows it.
[[nodiscard]] std::string boundText(const BoundFinding& found);

/// What bounded the passes of a case at one level: the class of most of them. `best_power_w`: the graphics device's
/// highest median power at either level, against which a link is suspected; absent where nobody knows. Source  medians
/// over a pass; thresholds of the field's rules of thumb: 95 % and 90 % busy, 97 % full, 5 % of the clock. A thread
/// that works for 90 % of its frame's time bounds it, however many cores idle beside it
[[nodiscard]] BoundFinding boundOf(std::span<const CountedPass> passes, std::optional<double> best_power_w);

/// Median over the passes of the highest power that a sensor of theirs shows, W: on these benches the graphics board's.
[[nodiscard]] std::optional<double> graphicsPower(std::span<const CountedPass> passes);

/// The rate that at least 60 % of the frames keep within 1 %, of the usual caps; 0 where there is none.
[[nodiscard]] double cappedAt(std::span<const double> frame_ms, double median_frame_ms);

/// Can a case so bound at both levels not show a variable that acts there?
[[nodiscard]] bool isBoundElsewhere(const std::array<BoundFinding, 2>& bound, ActsOn acts);

}  // namespace core
