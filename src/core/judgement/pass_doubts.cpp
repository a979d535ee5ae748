#include "core/judgement/pass_doubts.h"

#include <algorithm>
#include <array>
#include <map>
#include <sstream>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/result_row.h"
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
      : study_(study),
        record_(record),
        findings_(findings),
        schedule_(scheduleOf(study)),
        passes_of_(study.cases.size()) {
    for (const Pass& pass : record.passes)
      if (pass.slot < schedule_.size()) passes_of_[schedule_[pass.slot].case_index].push_back(&pass);
  }

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
    return doubts_.take();
  }

 private:
  // Every finished pass of a case ran with the settings of its first one, or it was another workload.
  void addPresetReset(std::size_t case_index) {
    const Pass* first = nullptr;
    for (const Pass* pass : passes_of_[case_index]) {
      if (pass->settings.empty()) continue;
      if (!first) first = pass;
      if (pass->settings == first->settings) continue;
      doubts_.add(doubt::kPresetReset, {study_.cases[case_index].title(), case_index},
                  fmt::format("{}: its settings were not the same in every pass: in visit {}, {}",
                              study_.cases[case_index].title(), schedule_[pass->slot].visit,
                              firstDifference(first->settings, pass->settings)),
                  "A preset that resets itself is another workload: set it right and repeat the study");
      return;
    }
  }

  // Settings that could not be read were not compared.
  void addSettingsUnread(std::size_t case_index) {
    const Case& a_case = study_.cases[case_index];
    if (a_case.settings_file.empty()) return;
    const auto& passes = passes_of_[case_index];
    const auto unread = std::count_if(passes.begin(), passes.end(), [](const Pass* pass) {
      return pass->status == PassStatus::Finished && pass->settings.empty();
    });
    if (unread == 0) return;
    doubts_.add(doubt::kSettingsUnread, {a_case.title(), case_index},
                fmt::format("{}: in {} of its passes nothing could be read from {}", a_case.title(), unread,
                            a_case.settings_file),
                "Name the file as it is seen from the study's folder, up to 64 KiB");
  }

  void addDeclared(std::size_t case_index) {
    const Case& a_case = study_.cases[case_index];
    if (const std::string made = a_case.declaredFact("generated_frames"); !made.empty() && isFrameMetric(a_case.metric))
      doubts_.add(
          doubt::kGeneratedFrames, {a_case.title(), case_index},
          fmt::format("{}: its frames are in part generated ({}); they count as frames here", a_case.title(), made),
          "Turn them off, or decide by what a person feels");
    if (const std::string automatic = a_case.declaredFact("automatic_quality");
        !automatic.empty() && automatic != "off")
      doubts_.add(
          doubt::kAutomaticQuality, {a_case.title(), case_index},
          fmt::format("{}: its quality adapts by itself ({}), which can hide the change", a_case.title(), automatic),
          "Fix the quality");
    if (const std::string cap = a_case.declaredFact("frame_cap"); !cap.empty() && cap != "off")
      doubts_.add(
          doubt::kFrameCap, {a_case.title(), case_index},
          fmt::format("{}: its frame rate is capped ({}), and a capped case cannot show a gain", a_case.title(), cap),
          "Lift the cap, or look at the frames below it only");
  }

  void addControlMoved(std::size_t case_index) {
    const Case& a_case = study_.cases[case_index];
    if (a_case.shouldRespond() || case_index >= findings_.cases.size()) return;
    const CaseFinding& finding = findings_.cases[case_index];
    const bool is_small =
        finding.verdict == Verdict::NoDifferenceThatMatters || finding.verdict == Verdict::RealButNegligible;
    if (is_small || !finding.doesExcludeZero()) return;
    doubts_.add(doubt::kControlMoved, {a_case.title(), case_index},
                fmt::format("{} moved by {}, and it should not respond: something else moved too", a_case.title(),
                            changeOf(finding)),
                "Look for what else changed; the other cases carry it too");
  }

  // One sentence for all cases; the passes page names each.
  void addOdd() {
    std::size_t passes = 0;
    std::string first;
    for (const CaseFinding& finding : findings_.cases) {
      for (const int visit : finding.odd_visits)
        doubts_.add(doubt::kOddVisit, {fmt::format("{}/{}", finding.title, visit), finding.case_index},
                    fmt::format("{}: visit {} differs from its level's other visits", finding.title, visit),
                    "Look for what was different then");
      if (!finding.odd_passes.empty() && first.empty()) first = finding.title;
      passes += finding.odd_passes.size();
    }
    if (passes == 0) return;
    doubts_.add(doubt::kOddPasses,
                fmt::format("{} far from {} level's other passes: {}",
                            passes == 1 ? "1 pass lies" : fmt::format("{} passes lie", passes),
                            passes == 1 ? "its" : "their", first + (passes > 1 ? " and others" : "")),
                "Look at it; leave a pass out only for a physical cause");
  }

  // The estimate with the drift taken out stands beside it, never in its place; not while results are sealed.
  [[nodiscard]] std::string withoutDrift(const CaseFinding& finding) const {
    if (!findings_.done.is_first_done || !finding.effect || !finding.effect->is_log) return {};
    const Contrast out = withDriftOut(finding.effect->contrast, *finding.drift, findings_.confidence);
    return fmt::format("; with it taken out the change is {} in place of {}", changeText(percentChangeOf(out)),
                       percentText(finding.change.value));
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
    const bool is_small = std::abs(pretends) < worst->threshold.gain_percent / 10;
    Doubt& added = doubts_.add(
        doubt::kDrift, {"", worst->case_index},
        fmt::format("The bench drifts, p {:.2g}: {} by {} over the {} of the study; drift alone could explain up to {}",
                    drift.p_holm.value_or(drift.p), worst->title,
                    percentText(percentOfLn(drift.per_hour * drift.span_hours)), durationText(drift.span_hours * 3600),
                    percentText(pretends) + withoutDrift(*worst)),
        is_small ? "The order of the visits cancels it" : "Let it warm up first, or let the order of rounds cancel it");
    if (is_small) added.rank = DoubtRank::Note;
  }

  void addWarmUp() {
    for (const CaseFinding& finding : findings_.cases) {
      if (!finding.is_warm_up_seen) continue;
      const double percent = percentOfLn(*finding.warm_up->difference);
      if (std::abs(percent) < finding.threshold.gain_percent / 4) continue;
      return void(doubts_.add(doubt::kWarmUp, {"", finding.case_index},
                              fmt::format("{}: the first pass of a visit differs by {} from the others", finding.title,
                                          percentText(percent)),
                              "One more warm-up pass, or a longer settling, keeps it out"));
    }
  }

  void addDamaged() {
    const auto count =
        std::count_if(record_.passes.begin(), record_.passes.end(), [](const Pass& pass) { return pass.is_damaged; });
    if (count == 0) return;
    doubts_.add(
        doubt::kDamagedPasses,
        fmt::format("{} {} damaged in the study file and left out", count, count == 1 ? "pass is" : "passes are"),
        "Restore the file from a copy, or repeat what is lost");
  }

  void addExcluded() {
    if (findings_.excluded_passes == 0) return;
    std::string cause;
    for (const Pass& pass : record_.passes)
      if (!pass.excluded_because.empty()) cause = pass.excluded_because;
    doubts_.add(doubt::kExcluded,
                fmt::format("{} left out by a person: {}",
                            findings_.excluded_passes == 1 ? "1 pass was"
                                                           : fmt::format("{} passes were", findings_.excluded_passes),
                            cause),
                "Each finding shows what it would be with them");
  }

  void addNoisyBench() {
    const auto noisy = std::count_if(record_.passes.begin(), record_.passes.end(), [](const Pass& pass) {
      return pass.others_busy_percent.value_or(0) > kQuietPercent;
    });
    if (noisy == 0) return;
    doubts_.add(doubt::kOthersAtWork,
                fmt::format("Other programs kept more than {:.0f} % of a core busy in {} of {} passes", kQuietPercent,
                            noisy, record_.passes.size()),
                "Close them, or let each pass wait until the bench is quiet");
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
      doubts_.add(doubt::kPresented, {study_.cases[index].title()},
                  fmt::format("{} was displayed differently from pass to pass: {}", study_.cases[index].title(), told),
                  "Set picture size, device and synchronisation the same, and repeat the others");
    }
  }

  void addTyped() {
    int ranges = 0;
    for (const Pass& pass : record_.passes) {
      if (!pass.typed || !pass.excluded_because.empty() || pass.slot >= schedule_.size()) continue;
      ranges += pass.typed->is_range;
      const Slot& slot = schedule_[pass.slot];
      if (const std::string slip = typingSlip(schedule_, record_.passes, pass); !slip.empty())
        doubts_.add(doubt::kTyped, {std::to_string(pass.id)},
                    fmt::format("{}, visit {}, pass {}: {}", study_.cases[slot.case_index].title(), slot.visit,
                                slot.number, slip),
                    "Look at its picture or its note; type it again where it is wrong");
    }
    if (ranges > 0)
      doubts_.add(doubt::kTypedRanges,
                  fmt::format("{} typed as a range: less precise",
                              ranges == 1 ? "1 result was" : fmt::format("{} results were", ranges)),
                  "Their interval is at least as wide as the range; read the numbers exactly where you can");
  }

  void addUpdates() {
    if (record_.updates.empty()) return;
    doubts_.add(doubt::kUpdating,
                fmt::format("{} was installing software when {} began", record_.updates.back(),
                            record_.updates.size() == 1 ? "a pass" : fmt::format("{} passes", record_.updates.size())),
                "Let it end and switch automatic updates off; repeat those passes");
  }

  [[nodiscard]] std::string nameAt(std::size_t place) const { return study_.nameOf(configurationAt(place)); }

  void addThrottled() {
    std::vector<int> passes(study_.configurationCount(), 0);
    for (const Pass& pass : record_.passes)
      if (pass.throttled.value_or(0) > 0 && pass.slot < schedule_.size())
        ++passes[placeOf(schedule_[pass.slot].configuration)];
    if (std::count(passes.begin(), passes.end(), 0) == static_cast<std::ptrdiff_t>(passes.size())) return;
    std::string where;
    for (std::size_t i = 0; i < passes.size(); ++i)
      if (passes[i] > 0 || passes.size() == 2)
        where += where.empty() ? fmt::format("{} at {}", countText(passes[i], "pass", "passes"), nameAt(i))
                               : fmt::format(" and {} at {}", passes[i], nameAt(i));
    const bool may_not = study_.school == School::WithHeadroom;
    Doubt& added = doubts_.add(doubt::kThrottled, fmt::format("A heat or power limit set in during {}", where),
                               may_not ? "With headroom no limit may set in: cool better or raise it, and repeat"
                                       : "The limit is a part of the answer only if users run into it as well");
    if (may_not) added.rank = DoubtRank::Stop;
  }

  void addUntested() {
    const bool is_due = std::any_of(study_.variables.begin(), study_.variables.end(), [](const Variable& one) {
      const VariableKind* kind = findVariableKind(one.kind);
      return kind && kind->needs_stability_test;
    });
    if (!is_due || study_.is_null || record_.passes.empty()) return;
    for (const ConfigurationId one : configurationsOf(study_))
      if (!record_.stable.contains(one) && !isGivenUp(one))
        doubts_.add(doubt::kUntested,
                    {study_.shape != Shape::Pair        ? study_.nameOf(one)
                     : one == ConfigurationId::Baseline ? "baseline"
                                                        : "changed"},
                    fmt::format("Nobody has tested {} for errors", study_.nameOf(one)),
                    "Let the sheet test it, or test it off-line for hours and enter the result");
  }

  // A level that was given up before any pass, for the errors that its own test found or otherwise, needs no test.
  [[nodiscard]] bool isGivenUp(ConfigurationId level) const {
    const bool has_passes = std::any_of(record_.passes.begin(), record_.passes.end(), [&](const Pass& pass) {
      return pass.slot < schedule_.size() && schedule_[pass.slot].configuration == level;
    });
    return !has_passes && std::any_of(record_.unreachable.begin(), record_.unreachable.end(),
                                      [&](const Unreachable& one) { return one.configuration == level; });
  }

  void addOnBattery() {
    for (const VisitCapture& capture : record_.captures)
      for (const Fact& fact : capture.capture.below("power/"))
        if (fact.name.ends_with("/online") && fact.value == "0")
          return void(doubts_.add(doubt::kOnBattery, "The bench ran on its battery",
                                  "Plug it in: on battery other limits apply"));
  }

  // What a program that died had left set was put back; only a visit since shows that it is.
  void addPutBack() {
    if (record_.put_back.empty()) return;
    doubts_.add(doubt::kPutBack,
                fmt::format("A crash had left settings behind; they were put back: {}", record_.put_back),
                "Begin the next visit: its capture proves what the machine is now");
  }

  void addChangesOfPlan() {
    if (record_.is_stopped_at_look)
      doubts_.add(doubt::kStoppedAtLook, "The study was stopped at an interim look",
                  "Its intervals are wider, so that all interim looks together keep the confidence");
    if (!record_.skipped.empty())
      doubts_.add(doubt::kSkipped,
                  fmt::format("{} skipped: {}",
                              record_.skipped.size() == 1 ? "1 pass was"
                                                          : fmt::format("{} passes were", record_.skipped.size()),
                              record_.skipped.back().reason),
                  "Passes that are left out for their result make false findings");
    if (!record_.plan_changes.empty())
      doubts_.add(doubt::kPlanChanged, fmt::format("The plan was changed: {}", record_.plan_changes.back()),
                  "It stands in the logbook");
    for (const JudgingChange& change : record_.judging_changes)
      if (change.was_seen)
        return void(
            doubts_.add(doubt::kJudgedAfter,
                        fmt::format("How results are judged was changed after they could be seen: {}", change.what),
                        "A yardstick that is chosen afterwards fits the result; say what the planned one says"));
    if (!record_.judging_changes.empty())
      doubts_.add(doubt::kJudgedOtherwise,
                  fmt::format("How results are judged was changed before any could be seen: {}",
                              record_.judging_changes.back().what),
                  "It stands in the logbook");
  }

  const Study& study_;
  const Record& record_;
  const Findings& findings_;
  std::vector<Slot> schedule_;
  std::vector<std::vector<const Pass*>> passes_of_;  ///< by case, in order of recording
  DoubtList doubts_;
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
    if (slot.case_index == own.case_index)
      (slot.configuration == own.configuration ? same_level : other_level).push_back(*other.value);
  }
  return whyImplausible(pass.value.value_or(0), same_level, other_level);
}

}  // namespace core
