#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/findings/findings.h"
#include "core/machine/samples.h"
#include "core/record/record.h"
#include "core/study/asked_contrasts.h"

namespace core {

/// What one channel showed at one configuration: the middle of its passes.
struct UsedLevel {
  ConfigurationId configuration{};
  double median = 0;
  int passes = 0;
  std::vector<double> values = {};  ///< one for each pass, in order of recording
};

/// How much a channel rose or fell between the two configurations that are compared.
struct UsedChange {
  bool is_ratio = true;  ///< in percent; false: in the channel's unit, of percentages in percentage points
  double value = 0;
  std::optional<PercentInterval> interval;  ///< its ends in order, in what `value` is in
  std::optional<double> p;
  std::optional<double> p_holm;  ///< among everything that the study says of what was used
  double from = 0;               ///< the two levels as the estimator sees them, in the unit
  double to = 0;

  /// Did it surely move, also among as many as there are? And by so much that somebody would look: 1 %, or 1 unit.
  [[nodiscard]] bool isTold(double confidence) const;
};

/// What the levels used of one channel in one case. It never carries a verdict of gain or loss.
struct Used {
  std::size_t case_index = 0;
  std::string channel;  ///< "memory in use"; with its part where a pass has several of the name
  std::string unit;
  ChannelRole role = ChannelRole::Load;
  std::vector<UsedLevel> at;  ///< by configuration, those that have it
  PairOf pair;
  std::optional<UsedChange> change;  ///< nothing where one of the two has it not
  std::string moved;                 ///< where it surely moved: "uses 3.1 GiB more memory (2.9 to 3.3)"; else empty
  std::string sentence;  ///< the same with what the result did meanwhile: "…, and is no better"; else empty
};

/// What each level used in each case, of every channel that was sampled while the passes ran, and what follows from
/// power: energy a frame and frames a joule, or energy a task. Of a counter the increase.
/// Shapes  passes of `retired_visits` (by id) stay out; case by case, each in the order of its channels. `findings` of
///         `pair`: what the result did meanwhile
/// Units   the channels' own; watts, megahertz, bytes and times are compared as ratios, degrees, percent, counts and
///         speeds of fans as differences
/// Source  the contrast of the case, by the estimator that the passes allow which have the channel; Holm 1979
[[nodiscard]] std::vector<Used> usedOf(const Study& study, const Record& record,
                                       std::span<const std::int64_t> retired_visits, PairOf pair,
                                       const Findings& findings);

/// What no pass of a study could read of its bench, and why: each once, in the order of the passes.
[[nodiscard]] std::vector<UnreadChannel> unreadOf(const Record& record);
/// "Not read: power of the processor (only root may read it), fans (the kernel shows none)", without its full stop;
/// empty where everything was.
[[nodiscard]] std::string unreadText(const std::vector<UnreadChannel>& unread);

/// "43.0 W to 47.1 W: +9.5 % (9.1 to 9.9)"; what is known of the two levels where there is no change to tell.
[[nodiscard]] std::string usedText(const Used& used, const Study& study);
/// The change alone: "+9.5 % (9.1 to 9.9)", "+6.0 °C (5.2 to 6.8)"; empty without one.
[[nodiscard]] std::string usedChangeText(const Used& used);
/// A sentence for each case of which something surely moved: all of it, and what the result did meanwhile.
[[nodiscard]] std::vector<std::string> usedSentences(const std::vector<Used>& used, const Study& study,
                                                     const Findings& findings);
/// "3 of 42 channels surely moved.": what there is beside the sentences.
[[nodiscard]] std::string usedSummary(const std::vector<Used>& used);
/// Every name of a channel in a table or beside a picture: with its unit, "memory in use, MiB".
[[nodiscard]] std::string usedTitle(const Used& used);

}  // namespace core
