#include "session/sheet/session.h"

#include <QDateTime>
#include <QDir>
#include <algorithm>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/proof/contradiction.h"
#include "core/record/looks.h"
#include "session/sheet/whose_turn.h"
#include "session/user/scratch.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

}  // namespace

Session::Session(store::StudyFile file, bench::BenchConnection& bench, const UserFiles& files, std::string person)
    : open_(std::move(file), std::move(person)),
      machine_(bench, open_, files.approvals),
      launcher_(bench),
      benches_(files.benches),
      running_(files.running),
      captures_(open_, machine_, benches_, background_, files.root_facts),
      level_(open_, machine_, launcher_, captures_, files.settings),
      pass_(open_, machine_, launcher_, captures_),
      copy_(open_, background_, files.copies),
      decisions_(open_, [this] { return state_; }),
      outside_(open_, [this] { return state_; }),
      search_(open_, machine_, files.settings, [this] { return benchName(); }),
      memory_(open_, machine_, benches_, background_),
      user_files_(files.approvals) {
  open_.setClockAhead([this] { return machine_.clockAheadMs(); });
  connect(&pass_, &PassRun::changed, this, &Session::stateChanged);
  connect(&decisions_, &Decisions::changed, this, &Session::stateChanged);
  connect(&decisions_, &Decisions::planChanged, this, [this] {
    if (!isRunning()) rest();
  });
  connect(&outside_, &OutsidePasses::passFiled, this, [this](const core::Pass& pass) {
    copy_.make();
    Q_EMIT passFiled(pass);
    if (isRunning())
      goOn();
    else
      rest();
  });
  connect(&search_, &StepSearchRun::changed, this, &Session::stateChanged);
  connect(&search_, &StepSearchRun::finished, this, &Session::rest);
  if (auto read = open_.read(); !read) problem_ = read.error();
  machine_.takeDesign();
  if (problem_)
    state_ = State::Held;
  else if (!open_.schedule().empty() && !nextSlot())
    state_ = State::Finished;
}

Session::~Session() {
  launcher_.drop();
  if (isRunning() && !is_suspending_) running_.remove(open_.absolutePath());  // a person closed it
  (void)level_.restore();  // what cannot be put back stays in the journal, for the next start
}

core::Status Session::approve() {
  if (auto approved = machine_.approve(); !approved) return approved;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::replaceStudy(const core::Study& study) {
  if (isRunning())
    return Error{ErrorKind::NotAllowed, "the question cannot change while passes run", open_.path(), "Stop first"};
  if (auto replaced = open_.replace(study); !replaced) return replaced;
  machine_.takeDesign();
  memory_.rememberLevels();
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::checkReady() const {
  if (!study().ssh_name.empty())
    return Error{ErrorKind::NotAllowed, "its bench is another computer, " + study().ssh_name + ", reached over ssh",
                 open_.path(), "Run its sheet there from a terminal here: iron-lever-cli run STUDY"};
  if (const auto problems = core::problemsOf(study()); !problems.empty()) return problems.front();
  if (auto found = machine_.findPrograms(); !found) return found;
  const auto& cases = study().cases;
  const bool is_recorded = std::any_of(cases.begin(), cases.end(), [](const core::Case& a_case) {
    return a_case.source == core::ResultSource::Recorded;
  });
  if (is_recorded)
    if (auto checked = FrameRecorder::check(); !checked) return checked;
  return checkApproved();
}

core::Status Session::checkApproved() const {
  const auto unapproved = machine_.unapprovedActs();
  if (unapproved.empty()) return core::Done{};
  return Error{ErrorKind::NotApproved,
               core::countText(static_cast<int>(unapproved.size()), "act of this study is", "acts of this study are") +
                   " not approved on this machine",
               open_.path(), "Read them and approve them, or do not run the study"};
}

core::Status Session::resume() {
  is_resumed_ = true;
  return begin();
}

core::Status Session::start() {
  is_resumed_ = false;
  return begin();
}

core::Status Session::begin() {
  if (isRunning()) return core::Done{};
  auto lock = FileLock::acquire(open_.path(), open_.person());
  if (!lock) return lock.error();
  // Another program may have gone on with the study since it was read, or added to its plan. What is checked, and what
  // a person has approved, must be what then runs.
  if (auto read = open_.read(); !read) return read;
  machine_.takeDesign();
  if (auto ready = checkReady(); !ready) return ready;
  auto bench = NameLock::acquire(benchName());
  if (!bench)
    return Error{ErrorKind::Busy, "another study's sheet runs on this bench", open_.path(),
                 "Stop it there first: two at once would disturb each other"};
  scratch_ = makeScratch();
  if (!scratch_)
    return Error{ErrorKind::Io, "no folder for the frame logs can be made", QDir::tempPath().toStdString(),
                 "Free some space there"};
  bench_lock_ = std::move(bench);
  lock_.emplace(*std::move(lock));  // kept from here on only: a start that fails leaves the study free
  launcher_.setScratch(scratch_->path().toStdString());
  pass_.setScratch(scratch_->path().toStdString());
  pass_.setLogPath(scratch_->filePath(QStringLiteral("frames.csv")).toStdString());
  problem_.reset();
  is_suspending_ = false;
  memory_.takeNullStudy();
  running_.add(open_.absolutePath());
  memory_.rememberWorkloads();
  is_level_confirmed_ = true;
  failures_in_a_row_ = 0;
  is_player_ready_ = is_quiet_ = false;
  (void)pass_.takeLimit();
  captures_.setOpen(true);
  setState(State::SettingLevel);
  QMetaObject::invokeMethod(this, &Session::goOn, Qt::QueuedConnection);
  return core::Done{};
}

// Passes that run on another machine disturb nobody here.
std::string Session::benchName() const {
  const std::string root = machine_.root();
  const std::string who = core::isBenchHere(study()) ? root : "elsewhere, " + open_.absolutePath();
  return fmt::format("bench {} {}", user_files_, who);
}

void Session::setState(State state) {
  state_ = state;
  if (!isRunning()) {
    is_stopping_ = false;
    if (lock_) memory_.rememberPasses();  // it ran until now
    // Nothing runs on a bench that a person takes for untouched. The lock goes last: until then the journal is ours.
    if (const auto restored = level_.restore(); !restored && !problem_) {
      problem_ = restored.error();
      state_ = State::Held;
    }
    // A sheet that is held goes on after a restart; one that is done, or that a person stopped or is to flip, does not.
    if ((state_ == State::Idle || state_ == State::Finished) && !is_suspending_) running_.remove(open_.absolutePath());
    captures_.setOpen(false);
    lock_.reset();
    bench_lock_.reset();
  }
  Q_EMIT stateChanged();
}

void Session::hold(Error problem) {
  problem_ = std::move(problem);
  setState(State::Held);
}

// Nothing runs, and nothing keeps it from running.
void Session::rest() { setState(nextSlot() ? State::Idle : State::Finished); }

// With nobody's stop and no error, the sheet goes on.
void Session::goOnAfter(const std::optional<core::Status>& step) {
  if (!step) return rest();
  if (!*step) return hold(step->error());
  goOn();
}

void Session::goOn() {
  if (unfiled_) return filePass(*std::exchange(unfiled_, std::nullopt));
  if (pass_.limit()) return stopAtLimit();
  if (is_stopping_) return rest();
  // What is started next is still what was approved: a program that was swapped meanwhile would mix two in one result.
  if (auto approved = checkApproved(); !approved) return hold(approved.error());
  const auto slot = nextSlot();
  const bool visit_goes_on = slot && isVisitInHand(open_, open_.schedule()[*slot], machine_.boot());
  if (visit_goes_on) is_level_confirmed_ = false;  // it was for this visit, not for the next level
  if (visit_goes_on && !level_.isOn())             // a visit that was interrupted; its settings were put back then
    if (auto applied = level_.apply(open_.schedule()[*slot].configuration); !applied) return hold(applied.error());
  if (visit_goes_on && level_.isStabilityDue()) return testStability();
  if (const auto due = level_.measurementDue(visit_goes_on)) return measure(*due);
  if (visit_goes_on) return preparePass(*slot);
  // Proof is repeated after the last pass: a level that sagged under load is found out.
  if (level_.isVisitOpen() && core::isBenchHere(study()))
    return captures_.take(core::CaptureMoment::End, [this](const core::Status& closed) { goOnAfter(closed); });
  // A sheet is done when its copy is.
  if (!slot && background_.isBusy()) return background_.run<bool>([] { return true; }, [this](bool) { goOn(); });
  if (!slot) return setState(State::Finished);
  const bool is_confirmed = std::exchange(is_level_confirmed_, false);
  const core::Slot& next = open_.schedule()[*slot];
  if (core::followsLook(study(), open_.schedule(), *slot) && !is_confirmed) return setState(State::Idle);
  if (!isLevelForAPerson(open_, next) || (is_confirmed && wasAskedFor(open_, next))) return setLevel(next);
  // Whoever starts a sheet was not asked for its first level yet; the bench may be there by itself.
  if (!is_confirmed || open_.visit() || !core::isBenchHere(study())) return askForLevel(next);
  setState(State::SettingLevel);
  captures_.look([this, next](const core::Capture& capture) {
    if (is_stopping_) return rest();
    if (core::readsAs(study(), next.configuration, capture)) return setLevel(next);
    askForLevel(next);
  });
}

void Session::askForLevel(const core::Slot& slot) {
  if (!wasAskedFor(open_, slot))
    if (auto noted = open_.note(core::LevelAsked{slot.visit}); !noted) return hold(noted.error());
  setState(State::Idle);
}

void Session::stop(Stop how) {
  if (how == Stop::ForRestart) is_suspending_ = true;
  if (!isRunning()) return;
  is_stopping_ = true;
  if (rest_.isWaiting() || awaitsPerson(state_)) {
    rest_.stop();
    return rest();
  }
  if (how != Stop::AfterPass) {
    launcher_.stop();
    pass_.stop();
  }
  Q_EMIT stateChanged();
}

void Session::setLevel(const core::Slot& slot) {
  setState(State::SettingLevel);
  level_.set(slot, is_resumed_, [this, slot](const std::optional<core::Status>& set) {
    if (!set) return rest();
    if (!*set) return hold(set->error());
    beginVisit(slot);
  });
}

void Session::beginVisit(const core::Slot& slot) {
  const auto visit = open_.addVisit(slot, machine_.boot(), open_.now());
  if (!visit) return hold(visit.error());
  captures_.take(core::CaptureMoment::Start, [this](const core::Status& taken) {
    if (!taken) return hold(taken.error());
    if (is_stopping_) return rest();
    if (const auto against = level_.contradiction()) return holdAtLevel(*against);
    waitForRest();
  });
}

// Hours would be lost on a level that is not there: a person decides before the first pass.
void Session::holdAtLevel(const std::string& contradiction) {
  hold({ErrorKind::NotAtLevel, contradiction, study().nameOf(open_.visit()->configuration),
        "Set it and look again; or measure it all the same, with a reason; or record the level as not reachable"});
}

void Session::waitForRest() {
  const core::Plan& plan = study().plan;
  if (plan.settle_s <= 0 && plan.settle_to_c <= 0) return goOn();
  rest_.settle(machine_.bench(), plan, [this](const std::string& remark) {
    if (!remark.empty()) (void)open_.note(core::NoteMade{"", "Settling: " + remark});
    goOn();
  });
  setState(State::Settling);
}

void Session::testStability() {
  setState(State::Testing);
  level_.testStability([this](const std::optional<core::Status>& tested) { goOnAfter(tested); });
}

void Session::measure(core::CaptureMoment moment) {
  setState(State::Measuring);
  level_.measure(moment, [this](const std::optional<core::Status>& measured) { goOnAfter(measured); });
}

// A pass begins when its player is there, and the bench is quiet where the plan waits for that.
void Session::preparePass(std::size_t slot_index) {
  if (open_.caseOf(slot_index).source == core::ResultSource::ByHand) return setState(State::AwaitingResult);
  if (open_.caseOf(slot_index).is_played && !is_player_ready_) return setState(State::AwaitingPlayer);
  if (study().plan.quiet_wait_s > 0 && !std::exchange(is_quiet_, false)) {
    rest_.untilQuiet(machine_.bench(), study().plan, [this](const std::string& remark) {
      if (!remark.empty()) (void)open_.note(core::NoteMade{"", "Before a pass: " + remark});
      is_quiet_ = true;
      goOn();
    });
    return setState(State::AwaitingQuiet);
  }
  is_player_ready_ = false;
  pass_.start(slot_index, [this](std::optional<MeasuredPass> measured) {
    if (!measured) return rest();
    filePass(*std::move(measured));
  });
  setState(State::RunningPass);
}

core::Status Session::startPlaying() {
  if (state_ != State::AwaitingPlayer)
    return Error{ErrorKind::NotAllowed, "no pass waits for its player", open_.path(), "Start the sheet first"};
  is_player_ready_ = true;
  setState(State::SettingLevel);
  QMetaObject::invokeMethod(this, &Session::goOn, Qt::QueuedConnection);
  return core::Done{};
}

// Back to the baseline where a command can bring it about while the machine runs, then the sheet is held.
void Session::stopAtLimit() {
  const Error limit = *pass_.takeLimit();
  (void)open_.note(core::LimitReached{limit.sentence()});
  setState(State::SettingLevel);
  level_.backToBaseline([this, limit](const std::optional<core::Status>& done) {
    Error why = limit;  // stays what a person reads first
    const bool is_back = done && done->ok();
    if (!is_back)
      why.remedy +=
          ". The bench is not back at the baseline: " + (done ? done->error().sentence() : "it was stopped on the way");
    hold(why);
  });
}

void Session::filePass(MeasuredPass measured) {
  const auto filed = open_.addPass(measured.pass, measured.frame_ms, measured.samples);
  if (!filed) {
    unfiled_ = std::move(measured);  // a finished pass is not thrown away because a disk is full
    return hold(filed.error());
  }
  failures_in_a_row_ = filed->status == core::PassStatus::Failed ? failures_in_a_row_ + 1 : 0;
  copy_.make();
  Q_EMIT passFiled(*filed);
  if (!pass_.limit() && failures_in_a_row_ >= study().plan.most_failures_in_a_row)
    return hold({ErrorKind::CommandFailed, fmt::format("{} passes in a row failed", failures_in_a_row_), filed->failure,
                 "Something is wrong with the bench, not with one pass: put it right, then go on"});
  goOn();
}

}  // namespace session
