#pragma once

#include <QObject>
#include <functional>
#include <optional>
#include <string>

#include "core/planning/extension.h"
#include "core/record/explanation.h"
#include "core/study/judging.h"
#include "session/study/open_study.h"
#include "session/study/state.h"

namespace session {

/// What a person decides or states while a study is worked on: each is on record, with who and when. It needs no bench.
class Decisions final : public QObject {
  Q_OBJECT
 public:
  /// `open` outlives it; `state` tells what the sheet is doing.
  Decisions(OpenStudy& open, std::function<State()> state) : open_(open), state_(std::move(state)) {}

  /// Asks for another attempt at every slot whose last attempt failed. Errors of the study file
  core::Status repeatFailed();
  /// Opens sealed results before the plan is complete; it stays on record. Errors of the study file; OutOfRange for an
  /// empty reason
  core::Status openEarly(const std::string& reason);
  /// How a pass felt: "smooth", "hitches" or "unusable". Errors of the study file; Missing for an unknown pass;
  /// OutOfRange for another word
  core::Status feel(std::int64_t pass_id, const std::string& word);
  /// What somebody expects the headline metric to change by, in percent; nothing takes it back.
  /// Errors of the study file; NotAllowed from the first counted pass on
  core::Status predict(const std::string& who, std::optional<double> percent);
  /// Leaves the next pass out of the sheet. Errors of the study file; OutOfRange for an empty reason; NotAllowed while
  /// running, or where every pass is in
  core::Status skipNext(const std::string& reason);
  /// One more round at the end of the plan. Errors of the study file; OutOfRange for an empty reason; NotAllowed for
  /// another order than rounds, or once the results can be seen
  core::Status addRound(const std::string& reason);
  /// Leaves a pass out of every result, for one of core::kExclusionCauses. It stays on record, and the act can be
  /// undone. Errors of the study file; Missing for an unknown pass; OutOfRange for another cause
  core::Status exclude(std::int64_t pass_id, const std::string& cause);
  /// Takes it back.
  core::Status include(std::int64_t pass_id);
  /// What this person holds to be the cause of a case's finding; an empty text takes it back. Errors as pin
  core::Status explain(const std::string& case_title, core::Grade grade, const std::string& text);
  /// Lets a finding stand out, with a remark; an empty one takes it back. Errors of the study file; Missing for an
  /// unknown case
  core::Status pin(const std::string& case_title, const std::string& remark);
  /// Ends the study at the planned look at which it stands. Errors of the study file; NotAllowed anywhere else
  core::Status stopAtLook();
  /// The one extension of a finished plan. Errors of the study file; NotAllowed where none is due
  core::Status extendPlan(const core::Extension& extension);
  /// Cases that were thought of when the plan was complete: a second part with so many rounds of its own, once. What
  /// the first part says stays what it was. Errors of the study file; those of problemsOf; OutOfRange without a reason
  /// or a case; NotAllowed before the plan is complete, and for a plan that can have no second part
  core::Status addSecondPart(std::vector<core::Case> cases, int rounds, const std::string& reason);
  /// A level was tested elsewhere and made no error. Errors of the study file; OutOfRange for an empty text
  core::Status stateStable(core::ConfigurationId configuration, const std::string& how);
  /// Takes back what was decided last, where that can be: see undoOf. Once more brings it back. Errors of the study
  /// file; NotAllowed where there is nothing to take back, or no longer
  core::Status undo();
  /// A remark for the logbook, or on a moment of a pass: "12@3.250" is pass 12 at 3.25 s. Errors of the study file;
  /// OutOfRange for an empty one
  core::Status addNote(const std::string& text, const std::string& moment = {});
  /// What only a person knows about the bench; goes into every capture from now on. Empty takes it back.
  /// Errors of the study file; those of core::statedFact
  core::Status state(const std::string& fact_id, const std::string& value);
  /// Records that a level cannot be reached, or does not hold: a result, with its reason. The rest of the plan stays
  /// open. Errors of the study file; OutOfRange for an empty reason; NotAllowed while running
  core::Status declareUnreachable(core::ConfigurationId configuration, const std::string& reason);
  /// The bench contradicts the level of the visit in hand, and is to be measured all the same: the visit counts as
  /// accepted. Errors of the study file; OutOfRange for an empty reason; NotAllowed where nothing contradicts it
  core::Status measureAnyway(const std::string& reason);
  /// A planned visit whose passes are left out is to be set and measured once more, in any plan, also a complete one.
  /// Where results could be seen by then, that is said beside it. Errors of the study file; OutOfRange for an empty
  /// reason; NotAllowed while running, and for a visit of which nothing is left out
  core::Status repeatVisit(int planned, const std::string& reason);
  /// A person takes a doubt upon themselves. Errors of the study file; OutOfRange for an empty reason
  core::Status acceptDoubt(const std::string& doubt_id, const std::string& reason);
  /// Judges otherwise what is measured already; it stays on record, with whether results could be seen by then. Errors
  /// of the study file; NotAllowed while passes run; OutOfRange without a reason, or for a value that is not allowed
  core::Status changeJudging(const core::Judging& judging, const std::string& reason);

 Q_SIGNALS:
  void changed();
  /// What is left of the plan, too.
  void planChanged();

 private:
  [[nodiscard]] const core::Study& study() const { return open_.study(); }
  [[nodiscard]] const store::Recorded& recorded() const { return open_.recorded(); }
  [[nodiscard]] const core::Pass* findPass(std::int64_t pass_id) const;
  [[nodiscard]] core::Status checkCase(const std::string& title) const;
  [[nodiscard]] core::Status changePlan(const core::Study& study, const std::string& why);

  OpenStudy& open_;
  std::function<State()> state_;
};

/// May a study have a second part now? The error says why not.
[[nodiscard]] core::Status checkSecondPart(const OpenStudy& open);

}  // namespace session
