#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <variant>

#include "core/estimate/units.h"
#include "core/record/bench_clock.h"
#include "core/record/explanation.h"
#include "core/record/null_record.h"
#include "core/record/taken_level.h"
#include "core/record/unreachable.h"

namespace core {

// What happened in a study beside its passes, or was decided: one type each. A field that several share has one name,
// so that whoever checks it needs no list of them: `pass_id`, `slot` and `configuration` are of the study itself.

struct DoubtAccepted {
  std::string doubt_id;
  std::string reason;
};
struct PassExcluded {
  std::int64_t pass_id = 0;
  std::string cause;
};
struct PassIncluded {
  std::int64_t pass_id = 0;
};
struct CauseGiven {
  std::string case_title;
  Grade grade = Grade::Conjecture;
  std::string text;  ///< empty: taken back
};
/// How a pass felt to the person who played or watched it, said before any number was shown.
struct PassFelt {
  std::int64_t pass_id = 0;
  std::string word;  ///< "smooth", "hitches" or "unusable"
};
/// A level was to be set; on record before it is tried.
struct FlipBegun {
  int visit = 1;        ///< the planned visit
  std::string boot_id;  ///< of the boot in which it was begun; empty where the machine tells none
};
/// A person was asked to bring the bench to the level of a visit.
struct LevelAsked {
  int visit = 1;  ///< the planned visit
};
/// Of several variables' commands at one flip, the one that is about to run; on record before it does.
struct SettingBegun {
  int visit = 1;
  std::string variable;  ///< its name
};
/// The bench contradicts a visit's level, and is measured all the same.
struct MeasuredAnyway {
  std::int64_t visit_id = 0;
  std::string reason;
};
/// A planned visit whose passes are left out is to be measured once more.
struct VisitRepeated {
  int visit = 1;                  ///< the planned visit
  std::int64_t last_pass_id = 0;  ///< passes up to this one settle nothing of it any more
  std::string reason;
};
/// How results are judged was changed after the first pass.
struct JudgingChange {
  std::string what;       ///< "threshold 2 % became 1 %: M. Osei asked for it"
  bool was_seen = false;  ///< results could be seen by then
};
struct LimitReached {
  std::string what;
};
struct NoteMade {
  std::string moment;  ///< of a pass's frames, as "3@1.5": pass and second; empty for the study as a whole
  std::string text;
};
/// Somebody noticed something beside what is measured, and wants it known: it stands in the report.
struct Observed {
  std::string picture;  ///< the digest of one that the study keeps; empty: there is none
  std::string text;
};
/// The null study that this one rests on.
struct NullStudyTaken {
  NullRecord record;
};
/// A level's passes were taken from an earlier study of the bench. `configuration` as of `taken`.
struct LevelTaken {
  ConfigurationId configuration = ConfigurationId::Baseline;
  TakenLevel taken;
};
struct OpenedEarly {
  std::string reason;
};
struct CasePinned {
  std::string case_title;
  std::string remark;  ///< empty: no longer pinned
};
struct PlanChanged {
  std::string what;
};
/// What a person expects before the first counted pass.
struct ChangePredicted {
  std::optional<double> percent;  ///< change of the headline metric; none: taken back
};
struct AttemptGranted {
  std::size_t slot = 0;
};
/// A setting that a program that died had left was put back.
struct SettingPutBack {
  std::string what;
};
/// A pass that a person left out of the sheet.
struct Skipped {
  std::size_t slot = 0;
  std::string reason;
};
/// A level was tested for errors, and had none.
struct LevelStable {
  ConfigurationId configuration = ConfigurationId::Baseline;
  std::string how;
};
struct FactStated {
  std::string fact_id;
  std::string value;  ///< empty: taken back
};
struct StoppedAtLook {
  int round = 0;  ///< after which the look was planned
};
/// A point of a level's checklist was done before a visit, or is not after all.
struct PointTicked {
  int visit = 1;  ///< the planned visit
  std::string point;
  bool is_done = true;
};
/// Of a step in a search for the highest stable one. `Setting`, `Testing`: it was begun, on record before it was.
enum class StepPhase { Setting, Testing, Held, Failed };
struct StepTried {
  ConfigurationId configuration = ConfigurationId::Baseline;
  StepPhase phase = StepPhase::Setting;
  std::string text;  ///< Setting, Testing: the boot in which it was begun; else what the test said
};
/// Something was being installed as a pass began.
struct UpdateSeen {
  std::size_t before_slot = 0;
  std::string program;
};
/// The clock of a bench elsewhere was compared with that of the desk.
struct ClocksCompared {
  ClockDifference difference;
};
/// Of a kind that this version does not know.
struct OtherAct {
  std::string kind;
  std::string subject;
  std::string text;
};

using Act = std::variant<DoubtAccepted, PassExcluded, PassIncluded, CauseGiven, PassFelt, FlipBegun, LevelAsked,
                         SettingBegun, MeasuredAnyway, VisitRepeated, JudgingChange, LimitReached, Unreachable,
                         NoteMade, Observed, NullStudyTaken, LevelTaken, OpenedEarly, CasePinned, PlanChanged,
                         ChangePredicted, AttemptGranted, SettingPutBack, Skipped, LevelStable, FactStated,
                         StoppedAtLook, PointTicked, StepTried, UpdateSeen, ClocksCompared, OtherAct>;

}  // namespace core
