#pragma once

#include <cstdint>
#include <map>
#include <optional>
#include <set>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "core/machine/fact.h"
#include "core/record/act.h"
#include "core/record/bench_clock.h"
#include "core/record/explanation.h"
#include "core/record/level_measurement.h"
#include "core/record/null_record.h"
#include "core/record/pass.h"
#include "core/record/taken_level.h"
#include "core/record/unreachable.h"

namespace core {

/// The machine as a visit found it.
struct VisitCapture {
  std::int64_t visit_id = 0;
  CaptureMoment moment = CaptureMoment::Start;
  Capture capture;
};

/// A doubt's id, and the reason with which a person took it upon themselves.
using Acceptance = std::pair<std::string, std::string>;

/// What a person expects before the first counted pass, and how they said it.
struct Prediction {
  std::string person;
  double percent = 0;  ///< change of the headline metric

  bool operator==(const Prediction&) const = default;
};

/// How a pass felt to the person who played or watched it, said before any number was shown.
struct Felt {
  std::int64_t pass_id = 0;
  std::string person;
  std::string word;  ///< "smooth", "hitches" or "unusable"
};

/// What somebody noticed beside what is measured.
struct Observation {
  std::string person;
  std::int64_t at_ms = 0;  ///< UTC, milliseconds since 1970
  std::string text;
};

/// A level was to be set.
struct FlipAttempt {
  int visit = 1;           ///< the planned visit
  std::int64_t at_ms = 0;  ///< UTC, milliseconds since 1970
};

/// A planned visit that is to be measured once more: passes up to `last_pass_id` settle nothing of it.
struct RepeatedVisit {
  int visit = 1;
  std::int64_t last_pass_id = 0;
};

/// Everything recorded in a study that a judgement rests on. The spans are whoever's who made it.
struct Record {
  std::span<const Visit> visits;
  std::span<const Pass> passes;
  std::span<const VisitCapture> captures;
  std::span<const VisitMeasurement> measurements;
  std::vector<Acceptance> acceptances;
  std::vector<Unreachable> unreachable;
  std::string opened_early;  ///< why the results were opened before the plan was complete; empty where they were not
  std::vector<Prediction> predictions = {};  ///< the latest of each person
  std::vector<Felt> felt = {};
  std::vector<Skipped> skipped = {};
  std::vector<std::size_t> repeats = {};            ///< slots that a person granted another attempt, once each time
  std::map<std::string, std::string> pins = {};     ///< a case's title, and the remark with which somebody pinned it
  std::vector<Explanation> explanations = {};       ///< the latest of each person for each case
  std::vector<std::string> updates = {};            ///< programs that installed something as a pass began, one a pass
  std::vector<std::string> plan_changes = {};       ///< what was changed of the plan after the first pass, and why
  std::vector<JudgingChange> judging_changes = {};  ///< of how results are judged, after the first pass
  bool is_stopped_at_look = false;                  ///< the study ended at a planned look
  std::string put_back = {};                        ///< settings that a program that died had left; empty once proved
  std::vector<Fact> stated_afterwards = {};         ///< about the bench, said after its last capture
  std::vector<FlipAttempt> flips = {};              ///< every time that a level was to be set
  std::vector<FlipAttempt> asked = {};              ///< every time that a person was asked to bring one about
  std::map<std::int64_t, std::string> measured_anyway = {};  ///< visits by id that contradict their level, and why
  std::vector<RepeatedVisit> repeated_visits = {};           ///< whose passes are to be run once more
  std::optional<NullRecord> null_study = {};                 ///< what is known of this bench's flips
  std::map<ConfigurationId, TakenLevel> taken = {};          ///< levels that were measured for an earlier study
  std::set<ConfigurationId> stable = {};                     ///< were tested for errors, and had none
  std::vector<StepTried> steps_tried = {};                   ///< of the search for the highest stable step, in order
  std::vector<Observation> observations = {};                ///< in the order in which they were made
  BenchClock clock = {};                                     ///< of a bench elsewhere, beside the desk's
  std::map<int, std::set<std::string>> ticked = {};          ///< points of checklists, done before each planned visit
};

}  // namespace core
