#include "store/study/act_row.h"

#include <array>
#include <cmath>
#include <limits>
#include <utility>

#include <fmt/format.h>

#include "core/values/number_text.h"
#include "store/json/null_record_json.h"
#include "store/json/taken_level_json.h"

namespace store {
namespace {

using core::Act;
using Read = std::optional<Act>;

// Written into study files; never renamed.
namespace kinds {
constexpr const char* kAccepted = "accepted";
constexpr const char* kAsked = "asked";
constexpr const char* kClocks = "clocks";
constexpr const char* kExcluded = "excluded";
constexpr const char* kExplained = "explained";
constexpr const char* kFelt = "felt";
constexpr const char* kFlip = "flip";
constexpr const char* kIncluded = "included";
constexpr const char* kJudgingChanged = "judging_changed";
constexpr const char* kLevelTaken = "level_taken";
constexpr const char* kLimit = "limit";
constexpr const char* kMeasuredAnyway = "measured_anyway";
constexpr const char* kNotReachable = "not_reachable";
constexpr const char* kNote = "note";
constexpr const char* kNullStudy = "null_study";
constexpr const char* kObserved = "observed";
constexpr const char* kOpenedEarly = "opened_early";
constexpr const char* kPinned = "pinned";
constexpr const char* kPlanChanged = "plan_changed";
constexpr const char* kPredicted = "predicted";
constexpr const char* kRepeat = "repeat";
constexpr const char* kRestored = "restored";
constexpr const char* kSetting = "setting";
constexpr const char* kSkip = "skip";
constexpr const char* kStable = "stable";
constexpr const char* kStated = "stated";
constexpr const char* kStepFailed = "step_failed";
constexpr const char* kStepHeld = "step_held";
constexpr const char* kStepSetting = "step_setting";
constexpr const char* kStepTesting = "step_testing";
constexpr const char* kStoppedAtLook = "stopped_at_look";
constexpr const char* kTicked = "ticked";
constexpr const char* kUnticked = "unticked";
constexpr const char* kUpdating = "updating";
constexpr const char* kVisitRepeated = "visit_repeated";
}  // namespace kinds

/// In the order of core::StepPhase.
constexpr std::array kStepKinds{kinds::kStepSetting, kinds::kStepTesting, kinds::kStepHeld, kinds::kStepFailed};

/// The subject of a change of judging after results could be seen.
constexpr const char* kSeen = "seen";

/// The first two configurations are named as those of a pair, the others by their number.
std::string nameOf(core::ConfigurationId configuration) {
  if (configuration == core::ConfigurationId::Baseline) return "baseline";
  if (configuration == core::ConfigurationId::Changed) return "changed";
  return std::to_string(core::placeOf(configuration));
}

std::optional<std::int64_t> wholeNumber(const std::string& text) {
  constexpr double kMost = std::numeric_limits<int>::max();
  const auto number = core::numberOf(text);
  if (!number || *number < 0 || *number > kMost || *number != std::floor(*number)) return std::nullopt;
  return static_cast<std::int64_t>(*number);
}

std::optional<core::ConfigurationId> configurationNamed(const std::string& name) {
  if (name == "baseline") return core::ConfigurationId::Baseline;
  if (name == "changed") return core::ConfigurationId::Changed;
  const auto place = wholeNumber(name);
  constexpr std::int64_t kMost = std::numeric_limits<std::uint16_t>::max();
  if (!place || *place < 2 || *place > kMost) return std::nullopt;
  return core::configurationAt(static_cast<std::size_t>(*place));
}

struct Writer {
  ActRow operator()(const core::DoubtAccepted& act) const { return {kinds::kAccepted, act.doubt_id, act.reason}; }
  ActRow operator()(const core::PassExcluded& act) const {
    return {kinds::kExcluded, std::to_string(act.pass_id), act.cause};
  }
  ActRow operator()(const core::PassIncluded& act) const { return {kinds::kIncluded, std::to_string(act.pass_id), ""}; }
  ActRow operator()(const core::CauseGiven& act) const {
    return {kinds::kExplained, act.case_title,
            act.text.empty() ? "" : fmt::format("{}: {}", core::gradeName(act.grade), act.text)};
  }
  ActRow operator()(const core::PassFelt& act) const { return {kinds::kFelt, std::to_string(act.pass_id), act.word}; }
  ActRow operator()(const core::FlipBegun& act) const { return {kinds::kFlip, std::to_string(act.visit), act.boot_id}; }
  ActRow operator()(const core::LevelAsked& act) const { return {kinds::kAsked, std::to_string(act.visit), ""}; }
  ActRow operator()(const core::SettingBegun& act) const {
    return {kinds::kSetting, std::to_string(act.visit), act.variable};
  }
  ActRow operator()(const core::MeasuredAnyway& act) const {
    return {kinds::kMeasuredAnyway, std::to_string(act.visit_id), act.reason};
  }
  ActRow operator()(const core::VisitRepeated& act) const {
    return {kinds::kVisitRepeated, std::to_string(act.visit), fmt::format("{}: {}", act.last_pass_id, act.reason)};
  }
  ActRow operator()(const core::JudgingChange& act) const {
    return {kinds::kJudgingChanged, act.was_seen ? kSeen : "", act.what};
  }
  ActRow operator()(const core::LimitReached& act) const { return {kinds::kLimit, "", act.what}; }
  ActRow operator()(const core::Unreachable& act) const {
    return {kinds::kNotReachable, nameOf(act.configuration), act.reason};
  }
  ActRow operator()(const core::Observed& act) const { return {kinds::kObserved, act.picture, act.text}; }
  ActRow operator()(const core::NoteMade& act) const { return {kinds::kNote, act.moment, act.text}; }
  ActRow operator()(const core::NullStudyTaken& act) const {
    return {kinds::kNullStudy, "", nullRecordToJson(act.record)};
  }
  ActRow operator()(const core::LevelTaken& act) const {
    return {kinds::kLevelTaken, nameOf(act.configuration), takenLevelToJson(act.taken)};
  }
  ActRow operator()(const core::OpenedEarly& act) const { return {kinds::kOpenedEarly, "", act.reason}; }
  ActRow operator()(const core::CasePinned& act) const { return {kinds::kPinned, act.case_title, act.remark}; }
  ActRow operator()(const core::PlanChanged& act) const { return {kinds::kPlanChanged, "", act.what}; }
  ActRow operator()(const core::ChangePredicted& act) const {
    return {kinds::kPredicted, "", act.percent ? fmt::format("{:g}", *act.percent) : ""};
  }
  ActRow operator()(const core::AttemptGranted& act) const {
    return {kinds::kRepeat, std::to_string(act.slot), "another attempt at a failed pass"};
  }
  ActRow operator()(const core::SettingPutBack& act) const { return {kinds::kRestored, "", act.what}; }
  ActRow operator()(const core::Skipped& act) const { return {kinds::kSkip, std::to_string(act.slot), act.reason}; }
  ActRow operator()(const core::LevelStable& act) const { return {kinds::kStable, nameOf(act.configuration), act.how}; }
  ActRow operator()(const core::FactStated& act) const { return {kinds::kStated, act.fact_id, act.value}; }
  ActRow operator()(const core::StoppedAtLook& act) const {
    return {kinds::kStoppedAtLook, std::to_string(act.round), ""};
  }
  ActRow operator()(const core::PointTicked& act) const {
    return {act.is_done ? kinds::kTicked : kinds::kUnticked, std::to_string(act.visit), act.point};
  }
  ActRow operator()(const core::StepTried& act) const {
    return {kStepKinds.at(static_cast<std::size_t>(act.phase)), nameOf(act.configuration), act.text};
  }
  ActRow operator()(const core::UpdateSeen& act) const {
    return {kinds::kUpdating, std::to_string(act.before_slot), act.program};
  }
  ActRow operator()(const core::ClocksCompared& act) const {
    return {kinds::kClocks, "", fmt::format("{:.3f}: {:.3f}", act.difference.ahead_ms, act.difference.within_ms)};
  }
  ActRow operator()(const core::OtherAct& act) const { return {act.kind, act.subject, act.text}; }
};

// "12: the module was not seated": passes up to the twelfth settle nothing of the visit.
Read repeatedVisit(int visit, const std::string& text) {
  const std::size_t colon = text.find(": ");
  const auto last = colon == std::string::npos ? std::nullopt : wholeNumber(text.substr(0, colon));
  if (!last) return std::nullopt;
  return core::VisitRepeated{visit, *last, text.substr(colon + 2)};
}

// "-120.250: 1.500": how far the bench's clock is ahead, ms, and how sure that is.
Read clocksCompared(const ActRow& row) {
  const std::size_t colon = row.text.find(": ");
  if (colon == std::string::npos) return std::nullopt;
  const auto ahead = core::numberOf(row.text.substr(0, colon));
  const auto within = core::numberOf(row.text.substr(colon + 2));
  constexpr double kMost_ms = 1e14;  // some three thousand years
  if (!ahead || !within || !(std::abs(*ahead) < kMost_ms) || !(*within >= 0) || !(*within < kMost_ms))
    return std::nullopt;
  return core::ClocksCompared{{*ahead, *within}};
}

// Acts about a number: a pass, a slot, a visit, a round.
Read numberedAct(const ActRow& row) {
  const auto number = wholeNumber(row.subject);
  if (!number) return std::nullopt;
  const auto slot = static_cast<std::size_t>(*number);
  if (row.kind == kinds::kExcluded) return core::PassExcluded{*number, row.text};
  if (row.kind == kinds::kIncluded) return core::PassIncluded{*number};
  if (row.kind == kinds::kFelt) return core::PassFelt{*number, row.text};
  if (row.kind == kinds::kSkip) return core::Skipped{slot, row.text};
  if (row.kind == kinds::kRepeat) return core::AttemptGranted{slot};
  if (row.kind == kinds::kUpdating) return core::UpdateSeen{slot, row.text};
  if (row.kind == kinds::kFlip) return core::FlipBegun{static_cast<int>(*number), row.text};
  if (row.kind == kinds::kAsked) return core::LevelAsked{static_cast<int>(*number)};
  if (row.kind == kinds::kSetting) return core::SettingBegun{static_cast<int>(*number), row.text};
  if (row.kind == kinds::kMeasuredAnyway) return core::MeasuredAnyway{*number, row.text};
  if (row.kind == kinds::kTicked) return core::PointTicked{static_cast<int>(*number), row.text, true};
  if (row.kind == kinds::kUnticked) return core::PointTicked{static_cast<int>(*number), row.text, false};
  if (row.kind == kinds::kVisitRepeated) return repeatedVisit(static_cast<int>(*number), row.text);
  return core::StoppedAtLook{static_cast<int>(*number)};
}

Read levelAct(const ActRow& row) {
  const auto configuration = configurationNamed(row.subject);
  if (!configuration) return std::nullopt;
  if (row.kind == kinds::kLevelTaken) {
    auto taken = takenLevelFromJson(row.text);
    return taken ? Read(core::LevelTaken{*configuration, *std::move(taken)}) : std::nullopt;
  }
  if (row.kind == kinds::kStable) return core::LevelStable{*configuration, row.text};
  for (std::size_t i = 0; i < kStepKinds.size(); ++i)
    if (row.kind == kStepKinds.at(i)) return core::StepTried{*configuration, static_cast<core::StepPhase>(i), row.text};
  return core::Unreachable{*configuration, row.text};
}

Read explained(const ActRow& row) {
  if (row.text.empty()) return core::CauseGiven{row.subject, {}, {}};
  const std::size_t colon = row.text.find(": ");
  const auto grade = core::gradeNamed(std::string_view(row.text).substr(0, colon));
  if (colon == std::string::npos || !grade) return std::nullopt;
  return core::CauseGiven{row.subject, *grade, row.text.substr(colon + 2)};
}

Read predicted(const ActRow& row) {
  const auto percent = core::numberOf(row.text);
  if (!percent && !row.text.empty()) return std::nullopt;
  return core::ChangePredicted{percent};
}

Read nullStudy(const ActRow& row) {
  auto record = nullRecordFromJson(row.text);
  if (!record) return std::nullopt;
  return core::NullStudyTaken{*std::move(record)};
}

struct Kind {
  const char* name;
  Read (*read)(const ActRow& row);
};

constexpr Kind kKinds[] = {
    {kinds::kAccepted,
     [](const ActRow& row) -> Read {
       return core::DoubtAccepted{row.subject, row.text};
     }},
    {kinds::kAsked, numberedAct},
    {kinds::kClocks, clocksCompared},
    {kinds::kExcluded, numberedAct},
    {kinds::kExplained, explained},
    {kinds::kFelt, numberedAct},
    {kinds::kFlip, numberedAct},
    {kinds::kIncluded, numberedAct},
    {kinds::kJudgingChanged,
     [](const ActRow& row) -> Read {
       return core::JudgingChange{row.text, row.subject == kSeen};
     }},
    {kinds::kLevelTaken, levelAct},
    {kinds::kLimit, [](const ActRow& row) -> Read { return core::LimitReached{row.text}; }},
    {kinds::kMeasuredAnyway, numberedAct},
    {kinds::kNotReachable, levelAct},
    {kinds::kNote,
     [](const ActRow& row) -> Read {
       return core::NoteMade{row.subject, row.text};
     }},
    {kinds::kNullStudy, nullStudy},
    {kinds::kObserved,
     [](const ActRow& row) -> Read {
       return core::Observed{row.subject, row.text};
     }},
    {kinds::kOpenedEarly, [](const ActRow& row) -> Read { return core::OpenedEarly{row.text}; }},
    {kinds::kPinned,
     [](const ActRow& row) -> Read {
       return core::CasePinned{row.subject, row.text};
     }},
    {kinds::kPlanChanged, [](const ActRow& row) -> Read { return core::PlanChanged{row.text}; }},
    {kinds::kPredicted, predicted},
    {kinds::kRepeat, numberedAct},
    {kinds::kRestored, [](const ActRow& row) -> Read { return core::SettingPutBack{row.text}; }},
    {kinds::kSetting, numberedAct},
    {kinds::kSkip, numberedAct},
    {kinds::kStable, levelAct},
    {kinds::kStated,
     [](const ActRow& row) -> Read {
       return core::FactStated{row.subject, row.text};
     }},
    {kinds::kStepFailed, levelAct},
    {kinds::kStepHeld, levelAct},
    {kinds::kStepSetting, levelAct},
    {kinds::kStepTesting, levelAct},
    {kinds::kStoppedAtLook, numberedAct},
    {kinds::kTicked, numberedAct},
    {kinds::kUnticked, numberedAct},
    {kinds::kUpdating, numberedAct},
    {kinds::kVisitRepeated, numberedAct},
};

}  // namespace

ActRow rowOf(const Act& act) { return std::visit(Writer(), act); }

std::optional<Act> actOf(ActRow row) {
  for (const Kind& kind : kKinds)
    if (row.kind == kind.name) return kind.read(row);
  return core::OtherAct{std::move(row.kind), std::move(row.subject), std::move(row.text)};
}

}  // namespace store
