// What a person does to a study while it is worked on: each act is on record, with who and when.
#include <QDateTime>
#include <QDir>
#include <algorithm>
#include <array>
#include <set>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/judgement/judgement.h"
#include "core/machine/stated_fact.h"
#include "core/record/looks.h"
#include "core/study/exclusion.h"
#include "session/clock.h"
#include "session/session.h"
#include "store/study/event_kinds.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
namespace events = store::events;

bool isEmpty(const std::string& text) { return text.find_first_not_of(" \t\n") == std::string::npos; }

}  // namespace

core::Status Session::repeatFailed() {
  std::set<std::size_t> failed;
  for (const core::Pass& pass : recorded_.passes)
    if (pass.status == core::PassStatus::Failed) failed.insert(pass.slot);
  for (const core::Pass& pass : recorded_.passes)
    if (pass.status == core::PassStatus::Finished) failed.erase(pass.slot);
  const core::SheetLedger ledger = this->ledger();
  for (const std::size_t slot : failed) {
    if (ledger.isPending(slot)) continue;
    if (auto noted = note(events::kRepeat, std::to_string(slot), "another attempt at a failed pass"); !noted)
      return noted;
  }
  if (!isRunning()) setState(nextSlot() ? State::Idle : State::Finished);
  return core::Done{};
}

core::Status Session::acceptDoubt(const std::string& doubt_id, const std::string& reason) {
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a doubt is accepted with a reason only", "reason",
                 "Say why it does not matter here"};
  if (auto noted = note(events::kAccepted, doubt_id, reason); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::addNote(const std::string& text, const std::string& moment) {
  if (isEmpty(text)) return Error{ErrorKind::OutOfRange, "an empty note says nothing", "note", "Write what happened"};
  if (auto noted = note(events::kNote, moment, text); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::state(const std::string& fact_id, const std::string& value) {
  if (!value.empty())
    if (auto fact = core::statedFact(fact_id, value, person_); !fact) return fact.error();
  if (auto noted = note(events::kStated, fact_id, value); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::openEarly(const std::string& reason) {
  if (!study().plan.is_sealed || !nextSlot())
    return Error{ErrorKind::NotAllowed, "nothing is sealed", path(), "The results are open to everybody"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "results are opened early with a reason only", "reason",
                 "Say why it cannot wait; it stands in the study and its report"};
  if (auto noted = note(events::kOpenedEarly, "", reason); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::declareUnreachable(core::Side side, const std::string& reason) {
  if (isRunning())
    return Error{ErrorKind::NotAllowed, "a level is not given up while the sheet runs", path(), "Stop first"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a level is called not reachable with a reason only", "reason",
                 "Say what was tried, and what happened"};
  const core::SheetLedger ledger = this->ledger();
  bool has_open = false;
  bool has_finished = false;
  for (std::size_t slot = 0; slot < schedule_.size(); ++slot)
    has_open = has_open || (schedule_[slot].side == side && ledger.isPending(slot));
  for (const core::Pass& pass : recorded_.passes)
    has_finished = has_finished || (pass.status == core::PassStatus::Finished && schedule_[pass.slot].side == side &&
                                    !schedule_[pass.slot].is_warm_up);
  if (has_finished && !has_open)
    return Error{ErrorKind::NotAllowed, study().level(side).name + " was reached: all of its passes are in", path(),
                 "Leave single passes out for a physical cause, or add a note"};
  if (auto noted = note(events::kNotReachable, events::subjectOf(side), reason); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::feel(std::int64_t pass_id, const std::string& word) {
  constexpr std::array kWords{"smooth", "hitches", "unusable"};
  if (std::find(kWords.begin(), kWords.end(), word) == kWords.end())
    return Error{ErrorKind::OutOfRange, "'" + word + "' is not how a pass feels", "pass",
                 "Say smooth, hitches or unusable"};
  if (auto noted = note(events::kFelt, std::to_string(pass_id), word); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

std::optional<std::int64_t> Session::passToFeel() const {
  if (recorded_.passes.empty()) return std::nullopt;
  const core::Pass& last = recorded_.passes.back();
  const bool is_told = std::any_of(recorded_.events.begin(), recorded_.events.end(), [&](const store::Event& event) {
    return event.kind == events::kFelt && event.subject == std::to_string(last.id);
  });
  const bool is_asked = caseOf(last.slot).is_played && last.status == core::PassStatus::Finished && !slot_in_hand_;
  return is_asked && !is_told ? std::optional(last.id) : std::nullopt;
}

core::Status Session::predict(const std::string& who, std::optional<double> percent) {
  const bool is_counted = std::any_of(recorded_.passes.begin(), recorded_.passes.end(), [&](const core::Pass& pass) {
    return pass.slot < schedule_.size() && !schedule_[pass.slot].is_warm_up;
  });
  if (is_counted)
    return Error{ErrorKind::NotAllowed, "predictions are locked since the first counted pass", path(),
                 "Predict in the next study"};
  if (isEmpty(who)) return Error{ErrorKind::OutOfRange, "nobody predicts", "prediction", "Say who"};
  if (auto noted = note(events::kPredicted, "", percent ? fmt::format("{:g}", *percent) : "", who); !noted)
    return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::skipNext(const std::string& reason) {
  const auto slot = nextSlot();
  if (!slot)
    return Error{ErrorKind::NotAllowed, "every planned pass has its result or was left out", path(),
                 "There is none to skip; `exclude` leaves out one that was run"};
  if (isRunning())
    return Error{ErrorKind::NotAllowed, "a pass is not left out while the sheet runs", path(), "Stop first"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a pass is left out with a reason only", "reason", "Say why it cannot be run"};
  if (auto noted = note(events::kSkip, std::to_string(*slot), reason); !noted) return noted;
  setState(nextSlot() ? State::Idle : State::Finished);
  return core::Done{};
}

core::Status Session::changePlan(const core::Study& study, const std::string& why) {
  const store::Event event{0, now(), person_, events::kPlanChanged, "", why};
  if (auto changed = file_.changePlan(study, event); !changed) return changed;
  recorded_.events.push_back(event);
  schedule_ = core::scheduleOf(this->study());
  if (!isRunning()) setState(nextSlot() ? State::Idle : State::Finished);
  return core::Done{};
}

core::Status Session::changeJudging(const core::Judging& judging, const std::string& reason) {
  const core::Judging before = core::judgingOf(study());
  if (judging == before) return core::Done{};
  if (isRunning())
    return Error{ErrorKind::NotAllowed, "how results are judged cannot change while passes run", path(), "Stop first"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a yardstick is changed with a reason only", "reason", "Say why"};
  const core::Study judged = core::judgedBy(study(), judging);
  if (const auto problems = core::problemsOf(judged); !problems.empty()) return problems.front();
  const bool was_seen = !recorded_.passes.empty() && !core::judgementOf(study(), store::recordOf(recorded_)).is_sealed;
  const store::Event event{0,
                           now(),
                           person_,
                           events::kJudgingChanged,
                           was_seen ? events::kSeen : "",
                           core::judgingChange(before, judging) + ": " + reason};
  if (auto changed = file_.changePlan(judged, event); !changed) return changed;
  recorded_.events.push_back(event);
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::addRound(const std::string& reason) {
  const bool is_open = std::any_of(recorded_.events.begin(), recorded_.events.end(),
                                   [](const store::Event& event) { return event.kind == events::kOpenedEarly; });
  if (study().plan.order != core::Order::BalancedShuffle)
    return Error{ErrorKind::NotAllowed, "this plan has no rounds", path(), "Plan rounds in the next study"};
  if (!nextSlot() || is_open || !study().plan.is_sealed)
    return Error{ErrorKind::NotAllowed, "a round is not added once the results can be seen", path(),
                 "A finished plan may be extended once, by what its spread asks for"};
  if (isEmpty(reason))
    return Error{ErrorKind::OutOfRange, "a plan is changed with a reason only", "reason", "Say why one more is needed"};
  return changePlan(core::withOneMoreRound(study()), "one more round: " + reason);
}

core::Status Session::extendPlan(const core::Extension& extension) {
  if (nextSlot() || extension.rounds < 1 || study().plan.extension_rounds > 0)
    return Error{ErrorKind::NotAllowed, "a plan is extended once, when it is complete", path(), "Finish it first"};
  return changePlan(core::extended(study(), extension),
                    fmt::format("extended once by {}, sized from the spread alone",
                                core::countText(extension.rounds, "round", "rounds")));
}

core::Status Session::exclude(std::int64_t pass_id, const std::string& cause) {
  const auto pass = std::find_if(recorded_.passes.begin(), recorded_.passes.end(),
                                 [&](const core::Pass& one) { return one.id == pass_id; });
  if (pass == recorded_.passes.end() || pass->status != core::PassStatus::Finished)
    return Error{ErrorKind::Missing, "there is no such finished pass", path(), "Choose one from the list"};
  if (std::find(core::kExclusionCauses.begin(), core::kExclusionCauses.end(), cause) == core::kExclusionCauses.end())
    return Error{ErrorKind::OutOfRange, "a pass is left out for a physical cause only", "cause",
                 "Choose one from the list; that it lies far from the others is none"};
  if (auto noted = note(events::kExcluded, std::to_string(pass_id), cause); !noted) return noted;
  pass->excluded_because = cause;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::checkCase(const std::string& title) const {
  const auto& cases = study().cases;
  if (std::any_of(cases.begin(), cases.end(), [&](const core::Case& one) { return one.title() == title; }))
    return core::Done{};
  return Error{ErrorKind::Missing, "there is no case '" + title + "'", path(), "Choose one from the list"};
}

core::Status Session::explain(const std::string& case_title, core::Grade grade, const std::string& text) {
  if (auto known = checkCase(case_title); !known) return known;
  const core::Explanation said{case_title, grade, text, person_};
  if (auto noted = note(events::kExplained, case_title, isEmpty(text) ? "" : said.filed()); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::pin(const std::string& case_title, const std::string& remark) {
  if (auto known = checkCase(case_title); !known) return known;
  if (auto noted = note(events::kPinned, case_title, remark); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::include(std::int64_t pass_id) {
  const auto pass = std::find_if(recorded_.passes.begin(), recorded_.passes.end(),
                                 [&](const core::Pass& one) { return one.id == pass_id; });
  if (pass == recorded_.passes.end() || pass->excluded_because.empty())
    return Error{ErrorKind::Missing, "this pass is not left out", path(), "Choose one that is"};
  if (auto noted = note(events::kIncluded, std::to_string(pass_id), ""); !noted) return noted;
  pass->excluded_because.clear();
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::stopAtLook() {
  const auto look = core::lookReached(study(), store::recordOf(recorded_));
  if (isRunning() || !nextSlot() || !look)
    return Error{ErrorKind::NotAllowed, "the study stands at no planned look", path(),
                 "It may stop at a look that was chosen with the plan"};
  if (auto noted = note(events::kStoppedAtLook, std::to_string(*look), ""); !noted) return noted;
  setState(State::Finished);
  return core::Done{};
}

core::Status Session::stateStable(core::Side side, const std::string& how) {
  if (isEmpty(how))
    return Error{ErrorKind::OutOfRange, "an empty text says nothing", "test",
                 "Say how it was tested, and for how long"};
  if (auto noted = note(events::kStable, events::subjectOf(side), how); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::setSecondFolder(const std::string& folder) {
  if (folder.empty()) return copies_.setFolder(absolutePath(), folder);
  // As it is seen from here: the next program may stand elsewhere.
  const std::string whole = QDir(QString::fromStdString(folder)).absolutePath().toStdString();
  if (auto copied = file_.copyTo(copyPath(path(), whole)); !copied) return copied;
  return copies_.setFolder(absolutePath(), whole);
}

core::Status Session::note(const std::string& kind, const std::string& subject, const std::string& text,
                           const std::string& who) {
  const store::Event event{0, now(), who.empty() ? person_ : who, kind, subject, text};
  if (auto added = file_.addEvent(event); !added) return added;
  recorded_.events.push_back(event);
  return core::Done{};
}

}  // namespace session
