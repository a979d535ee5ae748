#include "core/findings/used.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <unordered_map>
#include <unordered_set>
#include <utility>

#include <fmt/format.h>

#include "core/estimate/holm.h"
#include "core/findings/suite_members.h"
#include "core/findings/used_sentence.h"
#include "core/record/looks.h"
#include "core/record/pair_visits.h"
#include "core/values/median.h"

namespace core {
namespace {

// Of one channel of a pass one number: a counter's increase, else the median.
std::optional<double> valueOf(const ChannelSummary& channel) {
  const bool is_counter = channel.role == ChannelRole::Throttle || channel.role == ChannelRole::LinkErrors;
  if (!is_counter) return channel.median;
  return channel.increase < 0 ? std::nullopt : std::optional(channel.increase);  // it began anew: nobody knows
}

// More than any bench has. Whoever writes a file may claim more: they are not compared.
constexpr std::size_t kMostChannels = 1000;

struct Reading {
  std::string unit;
  ChannelRole role = ChannelRole::Load;
  double value = 0;
};

/// What one pass shows, by the names of its channels, in the order in which it has them.
class ReadingsOfPass {
 public:
  explicit ReadingsOfPass(const Pass& pass) {
    std::map<std::string, int> of_name;
    for (const ChannelSummary& channel : pass.samples) ++of_name[channel.name];
    for (const ChannelSummary& channel : pass.samples) {
      if (names_.size() >= kMostChannels) return;
      if (channel.role == ChannelRole::Cost) continue;  // of ours, not of the level
      const std::string name = of_name[channel.name] > 1 ? channel.name + ", " + channel.part : channel.name;
      if (const auto value = valueOf(channel)) add(name, {channel.unit, channel.role, *value});
      if (channel.role == ChannelRole::Power) addEnergy(name, channel.mean, pass);
    }
  }
  [[nodiscard]] const std::vector<std::string>& names() const { return names_; }
  [[nodiscard]] const Reading* find(const std::string& name) const {
    const auto found = by_name_.find(name);
    return found == by_name_.end() ? nullptr : &found->second;
  }

 private:
  void add(const std::string& name, Reading reading) {
    constexpr double kMost = 1e300;  // beyond it sums of a few are no numbers any more
    if (std::abs(reading.value) < kMost && by_name_.try_emplace(name, std::move(reading)).second)
      names_.push_back(name);
  }
  // Energy comes of mean power and time, and the time of a frame is that of the counted stretch.
  void addEnergy(const std::string& power, double mean_w, const Pass& pass) {
    if (!(mean_w > 0)) return;
    if (pass.frames && pass.frames->average_fps > 0) {
      add("energy a frame, " + power, {"J", ChannelRole::Power, mean_w / pass.frames->average_fps});
      add("frames a joule, " + power, {"1/J", ChannelRole::Power, pass.frames->average_fps / mean_w});
    } else if (!pass.frames && pass.duration_s > 0) {
      add("energy a task, " + power, {"J", ChannelRole::Power, mean_w * pass.duration_s});
    }
  }
  std::vector<std::string> names_;
  std::unordered_map<std::string, Reading> by_name_;
};

// Degrees, percent and counts have no ratio that means anything.
Scale scaleOf(const Reading& reading) {
  constexpr std::array kRatios{"W", "MHz", "MiB", "ms", "FPS", "J", "1/J"};
  const bool is_ratio = std::find(kRatios.begin(), kRatios.end(), reading.unit) != kRatios.end();
  return is_ratio ? Scale::Ratio : Scale::Difference;
}

using ReadingsOfPasses = std::map<const Pass*, ReadingsOfPass>;

std::optional<double> readingIn(const ReadingsOfPasses& readings, const Pass& pass, const std::string& name) {
  const Reading* reading = readings.at(&pass).find(name);
  return reading ? std::optional(reading->value) : std::nullopt;
}

std::vector<UsedLevel> levelsOf(std::span<const CountedPass> everywhere, const ReadingsOfPasses& readings,
                                const std::string& name) {
  std::map<ConfigurationId, UsedLevel> by_configuration;
  for (const CountedPass& one : everywhere)
    if (const auto value = readingIn(readings, *one.pass, name))
      by_configuration[one.visit->configuration].values.push_back(*value);
  std::vector<UsedLevel> levels;
  for (auto& [configuration, level] : by_configuration) {
    level.configuration = configuration;
    level.median = medianOf(level.values);
    level.passes = static_cast<int>(level.values.size());
    levels.push_back(std::move(level));
  }
  return levels;
}

UsedChange changeOf(const Effect& effect) {
  UsedChange change;
  change.is_ratio = effect.is_log;
  change.from = effect.level_baseline;
  change.to = effect.level_changed;
  const auto& inference = effect.contrast.inference;
  if (effect.is_log) {
    const PercentChange percent = percentChangeOf(effect.contrast);
    change.value = percent.value;
    change.interval = percent.interval;
  } else {
    change.value = effect.contrast.difference;
    if (inference) change.interval = PercentInterval{inference->lo, inference->hi};
  }
  if (inference) change.p = inference->p;
  return change;
}

/// The counted passes of one case: at all configurations, and at the two that are compared as those of a pair.
struct PassesOfCase {
  std::span<const CountedPass> everywhere;
  std::span<const CountedPass> of_pair;
};

std::vector<Used> usedIn(std::size_t case_index, const PassesOfCase& passes, const Study& study, PairOf pair) {
  ReadingsOfPasses readings;
  std::vector<std::string> names;  // in the order in which passes have them
  std::unordered_set<std::string> seen;
  for (const CountedPass& one : passes.everywhere)
    for (const std::string& name : readings.try_emplace(one.pass, *one.pass).first->second.names())
      if (names.size() < kMostChannels && seen.insert(name).second) names.push_back(name);
  std::vector<Used> all;
  for (const std::string& name : names) {
    const auto value = [&](const Pass& pass) { return readingIn(readings, pass, name); };
    const auto first = std::find_if(passes.everywhere.begin(), passes.everywhere.end(),
                                    [&](const CountedPass& one) { return value(*one.pass).has_value(); });
    const Reading& reading = *readings.at(first->pass).find(name);
    Used used;
    used.case_index = case_index;
    used.channel = name;
    used.unit = reading.unit;
    used.role = reading.role;
    used.at = levelsOf(passes.everywhere, readings, name);
    used.pair = pair;
    const auto effect = effectOf(visitValues(passes.of_pair, value), study.confidence, {}, scaleOf(reading),
                                 sharingVisits(study, visitValues(passes.everywhere, value)));
    if (effect) used.change = changeOf(*effect);
    all.push_back(std::move(used));
  }
  return all;
}

void adjust(std::vector<Used>& all) {
  std::vector<std::optional<double>> p;
  for (const Used& one : all) p.push_back(one.change ? one.change->p : std::nullopt);
  const auto adjusted = holmAdjusted(p);
  for (std::size_t i = 0; i < all.size(); ++i)
    if (all[i].change) all[i].change->p_holm = adjusted[i];
}

}  // namespace

bool UsedChange::isTold(double confidence) const {
  constexpr double kLeast = 1;  // percent, or units
  return p_holm && *p_holm < 1 - confidence && std::abs(value) >= kLeast;
}

std::vector<Used> usedOf(const Study& asked, const Record& record, std::span<const std::int64_t> retired_visits,
                         PairOf pair, const Findings& findings) {
  const Study study = withLooksPaid(asked, record);
  const std::vector<Slot> schedule = scheduleOf(study);
  const std::vector<Visit> visits = visitsWithout(retired_visits, record.visits);
  const std::vector<Visit> visits_of_pair = pairVisits(visits, pair);
  const auto everywhere = countedByCase(study, schedule, visits, record.passes);
  const auto of_pair = countedByCase(pairStudyOf(study, pair), schedule, visits_of_pair, record.passes);
  std::vector<Used> all;
  for (std::size_t i = 0; i < study.cases.size(); ++i)
    for (Used& one : usedIn(i, {everywhere[i], of_pair[i]}, study, pair)) all.push_back(std::move(one));
  adjust(all);
  for (Used& one : all) {
    if (!one.change || !one.change->isTold(study.confidence)) continue;
    one.moved = movedText(one);
    one.sentence = one.moved + meanwhileText(findings.cases[one.case_index]);
  }
  return all;
}

std::vector<UnreadChannel> unreadOf(const Record& record) {
  std::vector<UnreadChannel> unread;
  const auto has = [&](const std::string& what) {
    return std::any_of(unread.begin(), unread.end(), [&](const UnreadChannel& one) { return one.what == what; });
  };
  for (const Pass& pass : record.passes)
    for (const UnreadChannel& one : pass.unread)
      if (unread.size() < kMostChannels && !has(one.what)) unread.push_back(one);
  return unread;
}

std::string unreadText(const std::vector<UnreadChannel>& unread) {
  std::string text;
  for (const UnreadChannel& one : unread)
    text += fmt::format("{}{} ({})", text.empty() ? "Not read: " : ", ", one.what, one.reason);
  return text;
}

}  // namespace core
