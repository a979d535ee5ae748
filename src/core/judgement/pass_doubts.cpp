#include "core/judgement/pass_doubts.h"

#include <algorithm>
#include <array>
#include <map>
#include <sstream>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/machine/variable_kind.h"
#include "core/study/schedule.h"
#include "core/values/percent.h"
#include "core/values/plausibility.h"
#include "core/values/shown_text.h"

namespace core {
namespace {

std::vector<std::string> linesOf(const std::string& text) {
  std::vector<std::string> lines;
  std::istringstream stream(text);
  for (std::string line; std::getline(stream, line);) lines.push_back(line);
  return lines;
}

// The first line that is not the same, before and after.
std::string firstDifference(const std::string& before, const std::string& after) {
  const auto was = linesOf(before);
  const auto is = linesOf(after);
  for (std::size_t i = 0; i < std::max(was.size(), is.size()); ++i) {
    const std::string old_line = i < was.size() ? was[i] : "";
    const std::string new_line = i < is.size() ? is[i] : "";
    if (old_line != new_line)
      return fmt::format("line {}: “{}” became “{}”", i + 1, cutText(old_line, 60), cutText(new_line, 60));
  }
  return "";
}

class PassDoubts {
 public:
  PassDoubts(const Study& study, const Record& record, const Findings& findings)
      : study_(study), record_(record), findings_(findings), schedule_(scheduleOf(study)) {}

  std::vector<Doubt> take() {
    for (std::size_t i = 0; i < study_.cases.size(); ++i) {
      addPresetReset(i);
      addSettingsUnread(i);
      addDeclared(i);
      addControlMoved(i);
    }
    addOdd();
    addDrift();
    addWarmUp();
    addExcluded();
    addDamaged();
    addNoisyBench();
    addUpdates();
    addPresentations();
    addTyped();
    addThrottled();
    addUntested();
    addOnBattery();
    addPutBack();
    addChangesOfPlan();
    return std::move(doubts_);
  }

 private:
  void add(std::string id, DoubtRank rank, std::string sentence, std::string remedy, Place place,
           std::optional<std::size_t> case_index = {}) {
    doubts_.push_back({std::move(id), rank, std::move(sentence), std::move(remedy), place, case_index, {}});
  }

  // Every finished pass of a case ran with the settings of its first one, or it was another workload.
  void addPresetReset(std::size_t case_index) {
    const Pass* first = nullptr;
    for (const Pass& pass : record_.passes) {
      if (pass.slot >= schedule_.size() || schedule_[pass.slot].case_index != case_index || pass.settings.empty())
        continue;
      if (!first) first = &pass;
      if (pass.settings == first->settings) continue;
      add("preset_reset/" + study_.cases[case_index].title(), DoubtRank::Stop,
          fmt::format("{}: its settings were not the same in every pass: in visit {}, {}",
                      study_.cases[case_index].title(), schedule_[pass.slot].visit,
                      firstDifference(first->settings, pass.settings)),
          "A preset that resets itself is another workload: set it right and repeat the study", Place::RunSheet,
          case_index);
      return;
    }
  }

  // Settings that could not be read were not compared.
  void addSettingsUnread(std::size_t case_index) {
    const Case& a_case = study_.cases[case_index];
    if (a_case.settings_file.empty()) return;
    const auto unread = std::count_if(record_.passes.begin(), record_.passes.end(), [&](const Pass& pass) {
      return pass.status == PassStatus::Finished && pass.slot < schedule_.size() &&
             schedule_[pass.slot].case_index == case_index && pass.settings.empty();
    });
    if (unread == 0) return;
    add("settings_unread/" + a_case.title(), DoubtRank::Caution,
        fmt::format("{}: in {} of its passes nothing could be read from {}", a_case.title(), unread,
                    a_case.settings_file),
        "Name the file as it is seen from the study's folder, up to 64 KiB", Place::Question, case_index);
  }

  void addDeclared(std::size_t case_index) {
    const Case& a_case = study_.cases[case_index];
    const bool is_rate = a_case.metric.unit == "FPS";
    if (const std::string made = a_case.declaredFact("generated_frames"); !made.empty() && is_rate)
      add("generated_frames/" + a_case.title(), DoubtRank::Caution,
          fmt::format("{}: its frames are in part generated ({}); they count as frames here", a_case.title(), made),
          "Turn them off, or decide by what a person feels", Place::Question, case_index);
    if (const std::string automatic = a_case.declaredFact("automatic_quality");
        !automatic.empty() && automatic != "off")
      add("automatic_quality/" + a_case.title(), DoubtRank::Caution,
          fmt::format("{}: its quality adapts by itself ({}), which can hide the change", a_case.title(), automatic),
          "Fix the quality", Place::Question, case_index);
    if (const std::string cap = a_case.declaredFact("frame_cap"); !cap.empty() && cap != "off")
      add("frame_cap/" + a_case.title(), DoubtRank::Caution,
          fmt::format("{}: its frame rate is capped ({}), and a capped case cannot show a gain", a_case.title(), cap),
          "Lift the cap, or look at the frames below it only", Place::Question, case_index);
  }

  void addControlMoved(std::size_t case_index) {
    const Case& a_case = study_.cases[case_index];
    if (a_case.shouldRespond() || case_index >= findings_.cases.size()) return;
    const CaseFinding& finding = findings_.cases[case_index];
    const auto& interval = finding.improvement.interval;
    const bool is_small =
        finding.verdict == Verdict::NoDifferenceThatMatters || finding.verdict == Verdict::RealButNegligible;
    if (!interval || is_small || (interval->lo <= 0 && interval->hi >= 0)) return;
    add("control_moved/" + a_case.title(), DoubtRank::Caution,
        fmt::format("{} moved by {}, and it should not respond: something else moved too", a_case.title(),
                    changeText(finding.change)),
        "Look for what else changed; the other cases carry it too", Place::Findings, case_index);
  }

  // One sentence for all cases; the passes page names each.
  void addOdd() {
    std::size_t passes = 0;
    std::string first;
    for (const CaseFinding& finding : findings_.cases) {
      for (const int visit : finding.odd_visits)
        add(fmt::format("odd_visit/{}/{}", finding.title, visit), DoubtRank::Caution,
            fmt::format("{}: visit {} differs from its level's other visits", finding.title, visit),
            "Look for what was different then", Place::Passes, finding.case_index);
      if (!finding.odd_passes.empty() && first.empty()) first = finding.title;
      passes += finding.odd_passes.size();
    }
    if (passes == 0) return;
    add("odd_passes", DoubtRank::Note,
        fmt::format("{} far from {} level's other passes: {}",
                    passes == 1 ? "1 pass lies" : fmt::format("{} passes lie", passes), passes == 1 ? "its" : "their",
                    first + (passes > 1 ? " and others" : "")),
        "Look at it; leave a pass out only for a physical cause", Place::Passes);
  }

  // Of the cases that drift, the one whose order could pretend the most.
  void addDrift() {
    const CaseFinding* worst = nullptr;
    const auto bias = [](const CaseFinding& one) {
      return std::max(std::abs(one.drift->biasLo()), std::abs(one.drift->biasHi()));
    };
    for (const CaseFinding& finding : findings_.cases)
      if (finding.drift && finding.drift->is_flagged && (!worst || bias(finding) > bias(*worst))) worst = &finding;
    if (!worst) return;
    const Drift& drift = *worst->drift;
    const double pretends =
        percentOfLn(std::abs(drift.biasLo()) > std::abs(drift.biasHi()) ? drift.biasLo() : drift.biasHi());
    const bool is_small = std::abs(pretends) < study_.notice_threshold_percent / 10;
    add("drift", is_small ? DoubtRank::Note : DoubtRank::Caution,
        fmt::format("The bench drifts: {} by {} over the {} of the study; drift alone could explain up to {}",
                    worst->title, percentText(percentOfLn(drift.per_hour * drift.span_hours)),
                    durationText(drift.span_hours * 3600), percentText(pretends)),
        is_small ? "The order of the visits cancels it" : "Let it warm up first, or let the order of rounds cancel it",
        Place::Passes, worst->case_index);
  }

  void addWarmUp() {
    for (const CaseFinding& finding : findings_.cases) {
      if (!finding.warm_up || !finding.warm_up->inference || finding.warm_up->inference->p >= 0.05) continue;
      const double percent = percentOfLn(*finding.warm_up->difference);
      if (std::abs(percent) < study_.notice_threshold_percent / 4) continue;
      return add("warm_up", DoubtRank::Note,
                 fmt::format("{}: the first pass of a visit differs by {} from the others", finding.title,
                             percentText(percent)),
                 "One more warm-up pass, or a longer settling, keeps it out", Place::Passes, finding.case_index);
    }
  }

  void addDamaged() {
    const auto count =
        std::count_if(record_.passes.begin(), record_.passes.end(), [](const Pass& pass) { return pass.is_damaged; });
    if (count == 0) return;
    add("damaged_passes", DoubtRank::Caution,
        fmt::format("{} {} damaged in the study file and left out", count, count == 1 ? "pass is" : "passes are"),
        "Restore the file from a copy, or repeat what is lost", Place::Passes);
  }

  void addExcluded() {
    if (findings_.excluded_passes == 0) return;
    std::string cause;
    for (const Pass& pass : record_.passes)
      if (!pass.excluded_because.empty()) cause = pass.excluded_because;
    add("excluded", DoubtRank::Note,
        fmt::format(
            "{} left out by a person: {}",
            findings_.excluded_passes == 1 ? "1 pass was" : fmt::format("{} passes were", findings_.excluded_passes),
            cause),
        "Each finding shows what it would be with them", Place::Passes);
  }

  void addNoisyBench() {
    const auto noisy = std::count_if(record_.passes.begin(), record_.passes.end(), [](const Pass& pass) {
      return pass.others_busy_percent.value_or(0) > kQuietPercent;
    });
    if (noisy == 0) return;
    add("others_at_work", DoubtRank::Caution,
        fmt::format("Other programs kept more than {:.0f} % of a core busy in {} of {} passes", kQuietPercent, noisy,
                    record_.passes.size()),
        "Close them, or let each pass wait until the bench is quiet", Place::RunSheet);
  }

  // Size, present mode, device and interface of a case's pictures must not change with anything.
  void addPresentations() {
    std::map<std::size_t, std::map<std::string, int>> by_case;
    for (const Pass& pass : record_.passes)
      if (pass.status == PassStatus::Finished && pass.presentation && pass.slot < schedule_.size())
        ++by_case[schedule_[pass.slot].case_index][pass.presentation->sentence()];
    for (const auto& [index, ways] : by_case) {
      if (ways.size() < 2) continue;
      std::string told;
      for (const auto& [way, passes] : ways) told += fmt::format("{}{} in {}", told.empty() ? "" : "; ", way, passes);
      add("presented/" + study_.cases[index].title(), DoubtRank::Stop,
          fmt::format("{} was not shown alike in all passes: {}", study_.cases[index].title(), told),
          "Set picture size, device and synchronisation the same, and repeat the others", Place::Passes);
    }
  }

  void addTyped() {
    int ranges = 0;
    for (const Pass& pass : record_.passes) {
      if (!pass.typed || !pass.excluded_because.empty() || pass.slot >= schedule_.size()) continue;
      ranges += pass.typed->is_range;
      const Slot& slot = schedule_[pass.slot];
      if (const std::string slip = typingSlip(schedule_, record_.passes, pass); !slip.empty())
        add(fmt::format("typed/{}", pass.id), DoubtRank::Caution,
            fmt::format("{}, visit {}, pass {}: {}", study_.cases[slot.case_index].title(), slot.visit, slot.number,
                        slip),
            "Look at its picture or its note; type it again where it is wrong", Place::Passes);
    }
    if (ranges > 0)
      add("typed_ranges", DoubtRank::Caution,
          fmt::format("{} typed as a range: a lower grade",
                      ranges == 1 ? "1 result was" : fmt::format("{} results were", ranges)),
          "Their interval is at least as wide as the range; read the numbers exactly where you can", Place::Passes);
  }

  void addUpdates() {
    if (record_.updates.empty()) return;
    add("updating", DoubtRank::Caution,
        fmt::format("{} was installing as {} began", record_.updates.back(),
                    record_.updates.size() == 1 ? "a pass" : fmt::format("{} passes", record_.updates.size())),
        "Let it end and switch automatic updates off; repeat those passes", Place::RunSheet);
  }

  void addThrottled() {
    std::array<int, 2> passes{};
    for (const Pass& pass : record_.passes)
      if (pass.throttled.value_or(0) > 0 && pass.slot < schedule_.size())
        ++passes[static_cast<std::size_t>(schedule_[pass.slot].side)];
    if (passes[0] + passes[1] == 0) return;
    const bool may_not = study_.school == School::WithHeadroom;
    add("throttled", may_not ? DoubtRank::Stop : DoubtRank::Caution,
        fmt::format("A heat or power limit set in during {} at {} and {} at {}", countText(passes[0], "pass", "passes"),
                    study_.levels[0].name, passes[1], study_.levels[1].name),
        may_not ? "With headroom no limit may set in: cool better or raise it, and repeat"
                : "The limit is a part of the answer only if users run into it as well",
        Place::RunSheet);
  }

  void addUntested() {
    const VariableKind* kind = findVariableKind(study_.kind);
    if (!kind || !kind->needs_stability_test || study_.is_null || record_.passes.empty()) return;
    for (std::size_t side = 0; side < study_.levels.size(); ++side)
      if (!record_.is_stable[side])
        add(fmt::format("untested/{}", side == 0 ? "baseline" : "changed"), DoubtRank::Caution,
            fmt::format("Nobody has tested {} for errors", study_.levels[side].name),
            "Let the sheet test it, or test it off-line for hours and enter the result", Place::RunSheet);
  }

  void addOnBattery() {
    for (const VisitCapture& capture : record_.captures)
      for (const Fact& fact : capture.capture.below("power/"))
        if (fact.name.ends_with("/online") && fact.value == "0")
          return add("on_battery", DoubtRank::Caution, "The bench ran on its battery",
                     "Plug it in: on battery the limits are others", Place::Bench);
  }

  // What a program that died had left set was put back; only a visit since shows that it is.
  void addPutBack() {
    if (record_.put_back.empty()) return;
    add("put_back", DoubtRank::Stop,
        fmt::format("A crash had left settings behind; they were put back: {}", record_.put_back),
        "Begin the next visit: its capture proves what the machine is now", Place::RunSheet);
  }

  void addChangesOfPlan() {
    if (record_.is_stopped_at_look)
      add("stopped_at_look", DoubtRank::Note, "The study was stopped at a planned look",
          "Its intervals are wider, so that all looks together keep the confidence", Place::Question);
    if (!record_.skipped.empty())
      add("skipped", DoubtRank::Note,
          fmt::format(
              "{} left out of the sheet: {}",
              record_.skipped.size() == 1 ? "1 pass was" : fmt::format("{} passes were", record_.skipped.size()),
              record_.skipped.back().reason),
          "Passes that are left out for their result make false findings", Place::RunSheet);
    if (!record_.plan_changes.empty())
      add("plan_changed", DoubtRank::Note, fmt::format("The plan was changed: {}", record_.plan_changes.back()),
          "It stands in the logbook", Place::RunSheet);
    for (const JudgingChange& change : record_.judging_changes)
      if (change.was_seen)
        return add("judged_after", DoubtRank::Caution,
                   fmt::format("How results are judged was changed after they could be seen: {}", change.what),
                   "A yardstick that is chosen afterwards fits the result; say what the planned one says",
                   Place::Question);
    if (!record_.judging_changes.empty())
      add("judged_otherwise", DoubtRank::Note,
          fmt::format("How results are judged was changed before any could be seen: {}",
                      record_.judging_changes.back().what),
          "It stands in the logbook", Place::Question);
  }

  const Study& study_;
  const Record& record_;
  const Findings& findings_;
  std::vector<Slot> schedule_;
  std::vector<Doubt> doubts_;
};

}  // namespace

std::vector<Doubt> passDoubts(const Study& study, const Record& record, const Findings& findings) {
  return PassDoubts(study, record, findings).take();
}

std::string typingSlip(std::span<const Slot> schedule, std::span<const Pass> passes, const Pass& pass) {
  const Slot& own = schedule[pass.slot];
  std::vector<double> same_level;
  std::vector<double> other_level;
  for (const Pass& other : passes) {
    if (other.id == pass.id || !other.value || !other.excluded_because.empty() || other.slot >= schedule.size())
      continue;
    const Slot& slot = schedule[other.slot];
    if (slot.case_index == own.case_index) (slot.side == own.side ? same_level : other_level).push_back(*other.value);
  }
  return whyImplausible(pass.value.value_or(0), same_level, other_level);
}

}  // namespace core
