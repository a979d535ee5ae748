#pragma once

#include <optional>
#include <string>
#include <vector>

namespace core {

/// What a channel of samples tells of. Written into study files; never renumbered.
enum class ChannelRole {
  Temperature = 0,  ///< °C
  Clock = 1,        ///< MHz
  Power = 2,        ///< W
  Load = 3,         ///< percent
  Memory = 4,       ///< MiB in use
  Link = 5,         ///< GT/s, or lanes
  Throttle = 6,     ///< a counter: how often a limit set in
  LinkErrors = 7,   ///< a counter
  Pressure = 8,     ///< percent of the time in which something waited
  Fan = 9,          ///< rpm
  Cost = 10,        ///< ms that taking the sample took
  Frame = 11        ///< of recorded frames: ms a frame, FPS or percent
};

/// One quantity over a pass. A value that could not be read is not a number.
struct Channel {
  std::string name;
  std::string unit;
  ChannelRole role = ChannelRole::Load;
  std::string part;                ///< of which it tells: "processor", a PCI address, a monitoring chip
  std::optional<double> critical;  ///< the maker's limit, where the machine names it; of memory, how much there is
  std::vector<double> values;      ///< one for each moment

  bool operator==(const Channel&) const = default;
};

/// What a bench does not show of itself while a pass runs, and why.
struct UnreadChannel {
  std::string what;    ///< "power of the processor"
  std::string reason;  ///< in the middle of a sentence: "only root may read it"

  bool operator==(const UnreadChannel&) const = default;
};

/// What was sampled while a pass ran.
struct Samples {
  std::vector<double> at_s;  ///< seconds since the pass began
  std::vector<Channel> channels;
  std::vector<Channel> by_frame = {};  ///< of recorded frames: one value for each frame time of the pass
  std::vector<UnreadChannel> unread = {};

  [[nodiscard]] bool empty() const { return at_s.empty(); }
  bool operator==(const Samples&) const = default;
};

/// One channel of a pass in a few numbers.
struct ChannelSummary {
  std::string name;
  std::string unit;
  ChannelRole role = ChannelRole::Load;
  std::string part;
  double lowest = 0;
  double median = 0;
  double highest = 0;
  double first_third = 0;  ///< median of the first third
  double last_third = 0;
  double mean = 0;      ///< arithmetic: of a power, what energy comes of
  double increase = 0;  ///< from the first value to the last: what a counter counted; below 0 where it began anew
  std::optional<double> limit = {};  ///< as Channel::critical

  bool operator==(const ChannelSummary&) const = default;
};

/// Channels without a readable value are left out.
[[nodiscard]] std::vector<ChannelSummary> summarize(const Samples& samples);

/// Why a sheet that runs alone is to stop at once, as a sentence; nothing while all is well. A part at the temperature
/// that its maker calls critical; a fan that has turned before and stands still on a part that is hot. Looks at
/// the latest sample.
[[nodiscard]] std::optional<std::string> limitReached(const Samples& samples);

/// How often a limit set in during the pass, by the counters' sum; nothing where none could be read.
[[nodiscard]] std::optional<double> throttlings(const Samples& samples);

}  // namespace core
