#pragma once

#include <string>

#include "core/estimate/effect.h"

/// The kinds of events in a study file, as docs/study-format.md lists them. Written into study files; never renamed.
namespace store::events {

constexpr const char* kAccepted = "accepted";
constexpr const char* kExcluded = "excluded";
constexpr const char* kExplained = "explained";
constexpr const char* kFelt = "felt";
constexpr const char* kIncluded = "included";
constexpr const char* kFlip = "flip";
constexpr const char* kJudgingChanged = "judging_changed";
constexpr const char* kLimit = "limit";
constexpr const char* kNotReachable = "not_reachable";
constexpr const char* kNote = "note";
constexpr const char* kNullStudy = "null_study";
constexpr const char* kOpenedEarly = "opened_early";
constexpr const char* kPinned = "pinned";
constexpr const char* kPlanChanged = "plan_changed";
constexpr const char* kPredicted = "predicted";
constexpr const char* kRepeat = "repeat";
constexpr const char* kRestored = "restored";
constexpr const char* kSkip = "skip";
constexpr const char* kStable = "stable";
constexpr const char* kStated = "stated";
constexpr const char* kStoppedAtLook = "stopped_at_look";
constexpr const char* kUpdating = "updating";

/// The subject of a change of judging after results could be seen.
constexpr const char* kSeen = "seen";

/// How an event names a level as its subject.
[[nodiscard]] inline const char* subjectOf(core::Side side) {
  return side == core::Side::Baseline ? "baseline" : "changed";
}
[[nodiscard]] inline core::Side sideOf(const std::string& subject) {
  return subject == subjectOf(core::Side::Baseline) ? core::Side::Baseline : core::Side::Changed;
}

}  // namespace store::events
