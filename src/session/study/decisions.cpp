#include "session/study/decisions.h"

#include <algorithm>
#include <array>
#include <set>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/judgement/judgement.h"
#include "core/machine/stated_fact.h"
#include "core/planning/extension.h"
#include "core/proof/contradiction.h"
#include "core/record/looks.h"
#include "core/study/exclusion.h"
#include "session/study/undo.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

bool isEmpty(const std::string& text) { return text.find_first_not_of(" \t\n") == std::string::npos; }

}  // namespace

core::Status Decisions::repeatFailed() {
  std::set<std::size_t> failed;
  for (const core::Pass& pass : recorded().passes)
    if (pass.status == core::PassStatus::Failed) failed.insert(pass.slot);
  for (const core::Pass& pass : recorded().passes)
    if (pass.status == core::PassStatus::Finished) failed.erase(pass.slot);
  const core::SheetLedger ledger = open_.ledger();
  for (const std::size_t slot : failed) {
    if (ledger.isPending(slot)) continue;
    if (auto noted = open_.note(core::AttemptGranted{slot}); !noted) return noted;
  }
  Q_EMIT planChanged();
  return core::Done{};
}

core::Status Decisions::measureAnyway(const std::string& reason) {
  const core::Visit* visit = open_.visit();
  if (visit == nullptr || !core::contradictionOf(study(), store::recordOf(recorded()), *visit))
    return Error{ErrorKind::NotAllowed, "nothing contradicts the level of the visit in hand", open_.path(),
                 "Start the sheet; it stops where the bench is not at its level"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a contradicted level is measured with a reason only", "reason",
                 "Say how you know that the bench is at it"};
  if (auto noted = open_.note(core::MeasuredAnyway{visit->id, reason}); !noted) return noted;
  // Its passes are to count: what would leave them out is accepted with the same reason.
  for (const char* kind : {core::kLevelNotReachedId, core::kFlipNotPerformedId})
    if (auto accepted = open_.note(core::DoubtAccepted{core::visitDoubtId(kind, visit->id), reason}); !accepted)
      return accepted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::repeatVisit(int planned, const std::string& reason) {
  if (isRunning(state_()))
    return Error{ErrorKind::NotAllowed, "a visit is not repeated while the sheet runs", open_.path(), "Stop first"};
  const core::Record record = store::recordOf(recorded());
  const auto retired = core::retiredVisits(study(), record, core::proveSteps(study(), record));
  const bool is_left_out = std::any_of(recorded().visits.begin(), recorded().visits.end(), [&](const core::Visit& one) {
    return one.planned == planned && std::find(retired.begin(), retired.end(), one.id) != retired.end();
  });
  if (!is_left_out)
    return Error{ErrorKind::NotAllowed, fmt::format("visit {} is not left out", planned), open_.path(),
                 "Only a visit whose passes do not count is repeated; `findings` names those under its doubts"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a visit is repeated with a reason only", "reason", "Say what is put right"};
  const bool was_seen = core::wasLookTaken(study(), record) || !core::isSealed(study(), record);
  const std::int64_t last = recorded().passes.empty() ? 0 : recorded().passes.back().id;
  if (auto noted = open_.note(core::VisitRepeated{planned, last, reason}); !noted) return noted;
  const std::string what =
      fmt::format("visit {} repeated{}: {}", planned, was_seen ? ", after results could be seen" : "", reason);
  return changePlan(study(), what);
}

core::Status Decisions::acceptDoubt(const std::string& doubt_id, const std::string& reason) {
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a doubt is accepted with a reason only", "reason",
                 "Say why it does not matter here"};
  if (auto noted = open_.note(core::DoubtAccepted{doubt_id, reason}); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::addNote(const std::string& text, const std::string& moment) {
  if (isEmpty(text)) return Error{ErrorKind::OutOfRange, "an empty note says nothing", "note", "Write what happened"};
  if (auto noted = open_.note(core::NoteMade{moment, text}); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::state(const std::string& fact_id, const std::string& value) {
  if (!value.empty())
    if (auto fact = core::statedFact(fact_id, value, open_.person()); !fact) return fact.error();
  if (auto noted = open_.note(core::FactStated{fact_id, value}); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::openEarly(const std::string& reason) {
  if (!study().plan.is_sealed || !open_.nextSlot())
    return Error{ErrorKind::NotAllowed, "nothing is sealed", open_.path(), "The results are open to everybody"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "results are opened early with a reason only", "reason",
                 "Say why it cannot wait; it stands in the study and its report"};
  if (auto noted = open_.note(core::OpenedEarly{reason}); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::declareUnreachable(core::ConfigurationId configuration, const std::string& reason) {
  if (isRunning(state_()))
    return Error{ErrorKind::NotAllowed, "a level is not given up while the sheet runs", open_.path(), "Stop first"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a level is called not reachable with a reason only", "reason",
                 "Say what was tried, and what happened"};
  const core::SheetLedger ledger = open_.ledger();
  bool has_open = false;
  bool has_finished = false;
  for (std::size_t slot = 0; slot < open_.schedule().size(); ++slot)
    has_open = has_open || (open_.schedule()[slot].configuration == configuration && ledger.isPending(slot));
  for (const core::Pass& pass : recorded().passes)
    has_finished = has_finished || (pass.status == core::PassStatus::Finished &&
                                    open_.schedule()[pass.slot].configuration == configuration &&
                                    !open_.schedule()[pass.slot].is_warm_up);
  if (has_finished && !has_open)
    return Error{ErrorKind::NotAllowed, study().nameOf(configuration) + " was reached: all of its passes are in",
                 open_.path(), "Leave single passes out for a physical cause, or add a note"};
  if (auto noted = open_.note(core::Unreachable{configuration, reason}); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::feel(std::int64_t pass_id, const std::string& word) {
  constexpr std::array kWords{"smooth", "hitches", "unusable"};
  if (findPass(pass_id) == nullptr)
    return Error{ErrorKind::Missing, "there is no such pass", open_.path(), "Choose one from the list"};
  if (std::find(kWords.begin(), kWords.end(), word) == kWords.end())
    return Error{ErrorKind::OutOfRange, "'" + word + "' is not how a pass feels", "pass",
                 "Say smooth, hitches or unusable"};
  if (auto noted = open_.note(core::PassFelt{pass_id, word}); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::predict(const std::string& who, std::optional<double> percent) {
  const bool is_counted = std::any_of(recorded().passes.begin(), recorded().passes.end(), [&](const core::Pass& pass) {
    return pass.slot < open_.schedule().size() && !open_.schedule()[pass.slot].is_warm_up;
  });
  if (is_counted)
    return Error{ErrorKind::NotAllowed, "predictions are locked since the first counted pass", open_.path(),
                 "Predict in the next study"};
  if (isEmpty(who)) return Error{ErrorKind::OutOfRange, "no name given", "prediction", "Say who"};
  if (auto noted = open_.note(core::ChangePredicted{percent}, who); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::skipNext(const std::string& reason) {
  const auto slot = open_.nextSlot();
  if (!slot)
    return Error{ErrorKind::NotAllowed, "every planned pass has its result or was left out", open_.path(),
                 "There is none to skip; `exclude` leaves out one that was run"};
  if (isRunning(state_()))
    return Error{ErrorKind::NotAllowed, "a pass is not left out while the sheet runs", open_.path(), "Stop first"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a pass is left out with a reason only", "reason", "Say why it cannot be run"};
  if (auto noted = open_.note(core::Skipped{*slot, reason}); !noted) return noted;
  Q_EMIT planChanged();
  return core::Done{};
}

core::Status Decisions::changePlan(const core::Study& study, const std::string& why) {
  if (auto changed = open_.change(study, core::PlanChanged{why}); !changed) return changed;
  Q_EMIT planChanged();
  return core::Done{};
}

core::Status Decisions::changeJudging(const core::Judging& judging, const std::string& reason) {
  const core::Judging before = core::judgingOf(study());
  if (judging == before) return core::Done{};
  if (isRunning(state_()))
    return Error{ErrorKind::NotAllowed, "how results are judged cannot change while passes run", open_.path(),
                 "Stop first"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a yardstick is changed with a reason only", "reason", "Say why"};
  const core::Study judged = core::judgedBy(study(), judging);
  if (const auto problems = core::problemsOf(judged); !problems.empty()) return problems.front();
  const core::Record record = store::recordOf(recorded());
  const bool was_seen = !recorded().passes.empty() &&
                        (core::wasLookTaken(study(), record) || !core::judgementOf(study(), record).is_sealed);
  if (auto changed =
          open_.change(judged, core::JudgingChange{core::judgingChange(before, judging) + ": " + reason, was_seen});
      !changed)
    return changed;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::addRound(const std::string& reason) {
  const core::Record record = store::recordOf(recorded());
  const bool is_open = !record.opened_early.empty() || core::wasLookTaken(study(), record);
  if (study().plan.order != core::Order::BalancedShuffle)
    return Error{ErrorKind::NotAllowed, "this plan has no rounds", open_.path(), "Plan rounds in the next study"};
  if (!open_.nextSlot() || is_open || !study().plan.is_sealed)
    return Error{ErrorKind::NotAllowed, "a round is not added once the results can be seen", open_.path(),
                 "A finished plan may be extended once, by what its spread asks for"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a plan is changed with a reason only", "reason", "Say why one more is needed"};
  return changePlan(core::withOneMoreRound(study()), "one more round: " + reason);
}

core::Status Decisions::extendPlan(const core::Extension& extension) {
  if (open_.nextSlot() || extension.rounds < 1 || study().plan.extension_rounds > 0)
    return Error{ErrorKind::NotAllowed, "a plan is extended once, when it is complete", open_.path(),
                 "Finish it first"};
  return changePlan(core::extended(study(), extension),
                    fmt::format("extended once by {}, sized from the spread alone",
                                core::countText(extension.rounds, "round", "rounds")));
}

core::Status checkSecondPart(const OpenStudy& open) {
  const core::Plan& plan = open.study().plan;
  if (plan.order != core::Order::BalancedShuffle || !plan.looks.empty() || open.study().is_null)
    return Error{ErrorKind::NotAllowed, "only a plan of rounds without interim looks has a second part", open.path(),
                 "Make a study of its own for further cases"};
  if (plan.second_part_rounds > 0)
    return Error{ErrorKind::NotAllowed, "the study has a second part already", open.path(),
                 "Make a study of its own for further cases"};
  const bool is_begun = !open.recorded().passes.empty();
  if (open.nextSlot() || !is_begun)
    return Error{ErrorKind::NotAllowed, "cases are added in a second part once the plan is complete", open.path(),
                 is_begun ? "Finish it first" : "Nothing is measured yet: add them to the question"};
  return core::Done{};
}

core::Status Decisions::addSecondPart(std::vector<core::Case> cases, int rounds, const std::string& reason) {
  if (auto allowed = checkSecondPart(open_); !allowed) return allowed;
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a plan is changed with a reason only", "reason", "Say why they are asked now"};
  if (cases.empty()) return Error{ErrorKind::OutOfRange, "there is no case to add", "cases", "Name one"};
  if (rounds < 3 || rounds > 500)
    return Error{ErrorKind::OutOfRange, "rounds must be 3 to 500", "rounds",
                 "Three are the fewest for an interval over rounds"};
  const std::string what =
      fmt::format("a second part: {} in {}", core::countText(static_cast<int>(cases.size()), "case", "cases"),
                  core::countText(rounds, "round", "rounds"));
  const core::Study more = core::withSecondPart(study(), std::move(cases), rounds);
  if (const auto problems = core::problemsOf(more); !problems.empty()) return problems.front();
  return changePlan(more, what + ": " + reason);
}

const core::Pass* Decisions::findPass(std::int64_t pass_id) const {
  const auto& passes = recorded().passes;
  const auto pass =
      std::find_if(passes.begin(), passes.end(), [&](const core::Pass& one) { return one.id == pass_id; });
  return pass == passes.end() ? nullptr : &*pass;
}

core::Status Decisions::exclude(std::int64_t pass_id, const std::string& cause) {
  const core::Pass* pass = findPass(pass_id);
  if (pass == nullptr || pass->status != core::PassStatus::Finished)
    return Error{ErrorKind::Missing, "there is no such finished pass", open_.path(), "Choose one from the list"};
  if (std::find(core::kExclusionCauses.begin(), core::kExclusionCauses.end(), cause) == core::kExclusionCauses.end())
    return Error{ErrorKind::OutOfRange, "a pass is left out for a physical cause only", "cause",
                 "Choose one from the list; that it lies far from the others is none"};
  if (auto noted = open_.note(core::PassExcluded{pass_id, cause}); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::checkCase(const std::string& title) const {
  const auto& cases = study().cases;
  if (std::any_of(cases.begin(), cases.end(), [&](const core::Case& one) { return one.title() == title; }))
    return core::Done{};
  return Error{ErrorKind::Missing, "there is no case '" + title + "'", open_.path(), "Choose one from the list"};
}

core::Status Decisions::explain(const std::string& case_title, core::Grade grade, const std::string& text) {
  if (auto known = checkCase(case_title); !known) return known;
  const core::CauseGiven given{case_title, grade, isEmpty(text) ? "" : text};
  if (auto noted = open_.note(given); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::pin(const std::string& case_title, const std::string& remark) {
  if (auto known = checkCase(case_title); !known) return known;
  if (auto noted = open_.note(core::CasePinned{case_title, remark}); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::include(std::int64_t pass_id) {
  const core::Pass* pass = findPass(pass_id);
  if (pass == nullptr || pass->excluded_because.empty())
    return Error{ErrorKind::Missing, "this pass is not left out", open_.path(), "Choose one that is"};
  if (auto noted = open_.note(core::PassIncluded{pass_id}); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::undo() {
  const auto undo = undoOf(recorded().events);
  if (!undo)
    return Error{ErrorKind::NotAllowed, "what was decided last cannot be taken back", open_.path(),
                 "A pass left out, a pin, a cause, a stated fact and a prediction can be"};
  if (const auto* predicted = std::get_if<core::ChangePredicted>(&undo->act))
    return predict(undo->person, predicted->percent);
  if (auto noted = open_.note(undo->act, undo->person); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

core::Status Decisions::stopAtLook() {
  const auto look = core::lookReached(study(), store::recordOf(recorded()));
  if (isRunning(state_()) || !open_.nextSlot() || !look)
    return Error{ErrorKind::NotAllowed, "the study stands at no interim look", open_.path(),
                 "It may stop at an interim look that was chosen with the plan"};
  if (auto noted = open_.note(core::StoppedAtLook{*look}); !noted) return noted;
  Q_EMIT planChanged();
  return core::Done{};
}

core::Status Decisions::stateStable(core::ConfigurationId configuration, const std::string& how) {
  if (isEmpty(how))
    return Error{ErrorKind::OutOfRange, "an empty text says nothing", "test",
                 "Say how it was tested, and for how long"};
  if (auto noted = open_.note(core::LevelStable{configuration, how}); !noted) return noted;
  Q_EMIT changed();
  return core::Done{};
}

}  // namespace session
