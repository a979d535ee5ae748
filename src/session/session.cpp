#include "session/session.h"
#include "session/clock.h"

#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <algorithm>
#include <cstdlib>
#include <map>

#include "bench/local_bench.h"
#include "core/estimate/wording.h"
#include "core/record/looks.h"
#include "session/scratch.h"
#include "store/json/null_record_json.h"
#include "store/study/event_kinds.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
namespace events = store::events;

}  // namespace

Session::Session(store::StudyFile file, bench::BenchConnection& bench, const UserFiles& files, std::string person)
    : file_(std::move(file)),
      bench_(bench),
      approvals_(files.approvals),
      settings_(files.settings),
      benches_(files.benches),
      running_(files.running),
      copies_(files.copies),
      root_facts_(files.root_facts),
      person_(std::move(person)) {
  connect(&sampling_, &QTimer::timeout, this, &Session::sample);
  connect(&looking_, &QTimer::timeout, this, [this] {
    if (!recorder_) return;
    recorder_->look();
    looking_.setInterval(recorder_->lookAgainMs());
  });
  stretch_end_.setSingleShot(true);
  stretch_end_.setTimerType(Qt::PreciseTimer);  // the usual one may be early by a twentieth
  connect(&stretch_end_, &QTimer::timeout, this, [this] {
    observeStretch();
    if (command_) command_->askToEnd();
  });
  auto recorded = file_.recorded();
  if (recorded)
    recorded_ = *std::move(recorded);
  else
    problem_ = recorded.error();
  takeDesign();
  if (problem_)
    state_ = State::Held;
  else if (!schedule_.empty() && !nextSlot())
    state_ = State::Finished;
}

Session::~Session() {
  command_.reset();
  if (isRunning() && !is_suspending_) running_.remove(absolutePath());  // a person closed it
  (void)restoreSettings();  // what cannot be put back stays in the journal, for the next start
}

std::string Session::folder() const { return QFileInfo(QString::fromStdString(path())).absolutePath().toStdString(); }

std::string Session::absolutePath() const {
  return QFileInfo(QString::fromStdString(path())).absoluteFilePath().toStdString();
}

// A folder elsewhere stands for the bench only once somebody has approved it; until then there is none.
std::string Session::machineRoot() const {
  if (study().machine.empty()) return "";
  const StudyPath place = studyPath(study().machine, folder());
  return mayRead(place) ? place.full : "/nonexistent";
}

bool Session::mayRead(const StudyPath& path) const {
  return path.is_below || approvals_.missing({readingOf(path, folder())}).empty();
}

int Session::attemptsOf(std::size_t slot) const {
  return static_cast<int>(std::count_if(recorded_.passes.begin(), recorded_.passes.end(),
                                        [&](const core::Pass& pass) { return pass.slot == slot; }));
}

core::SheetLedger Session::ledger() const { return {study(), schedule_, store::recordOf(recorded_)}; }

std::optional<std::size_t> Session::nextSlot() const { return ledger().next(); }

double Session::secondsInPass() const {
  return slot_in_hand_ ? static_cast<double>(now() - pass_started_ms_) / 1000.0 : 0;
}

// How long it usually took from the last pass of one visit to the first of the next; the plan's settling before that is
// known.
double Session::secondsBetweenVisits() const {
  std::vector<double> gaps_s;
  const std::vector<core::Pass>& passes = recorded_.passes;
  for (std::size_t i = 1; i < passes.size(); ++i)
    if (passes[i].visit_id != passes[i - 1].visit_id)
      gaps_s.push_back(static_cast<double>(passes[i].started_ms - passes[i - 1].started_ms) / 1000 -
                       passes[i - 1].duration_s);
  if (gaps_s.empty()) return study().plan.settle_s;
  // The middle one: a night in between is no flip.
  const auto middle = gaps_s.begin() + static_cast<std::ptrdiff_t>(gaps_s.size() / 2);
  std::nth_element(gaps_s.begin(), middle, gaps_s.end());
  return std::max(0.0, *middle);
}

std::map<int, double> Session::secondsByVisit() const {
  std::map<std::size_t, std::pair<double, int>> by_case;
  std::pair<double, int> all;
  for (const core::Pass& pass : recorded_.passes) {
    if (pass.status != core::PassStatus::Finished) continue;  // a crash after a moment tells nothing
    for (auto* one : {&by_case[schedule_[pass.slot].case_index], &all}) {
      one->first += pass.duration_s;
      ++one->second;
    }
  }
  std::map<int, double> seconds;
  if (all.second == 0) return seconds;
  const int in_hand = recorded_.visits.empty() ? 0 : recorded_.visits.back().planned;
  const core::SheetLedger ledger = this->ledger();
  for (std::size_t slot = 0; slot < schedule_.size(); ++slot) {
    if (!ledger.isPending(slot)) continue;
    const int visit = schedule_[slot].visit;
    if (!seconds.contains(visit) && visit != in_hand) seconds[visit] = secondsBetweenVisits();
    const auto& [sum, count] = by_case[schedule_[slot].case_index];
    seconds[visit] += count > 0 ? sum / count : all.first / all.second;
  }
  return seconds;
}

std::optional<double> Session::secondsLeft() const {
  const auto by_visit = secondsByVisit();
  if (by_visit.empty() && nextSlot()) return std::nullopt;
  double left_s = 0;
  for (const auto& [visit, seconds] : by_visit) left_s += seconds;
  return std::max(0.0, left_s - secondsInPass());
}

std::string Session::liveLogPath() const {
  return scratch_ ? scratch_->filePath(QStringLiteral("frames.csv")).toStdString() : "";
}

std::vector<Act> Session::unapprovedActs() const { return approvals_.missing(acts()); }

core::Status Session::approve() {
  auto approved = approvals_.approve(acts());
  if (!approved) return approved;
  takeDesign();  // a folder that stands for the bench may be looked at from now on
  Q_EMIT stateChanged();
  return approved;
}

// What follows from the study as the file has it.
void Session::takeDesign() {
  schedule_ = core::scheduleOf(study());
  stand_in_ = study().machine.empty() ? nullptr : std::make_unique<bench::LocalBench>(machineRoot());
}

core::Status Session::replaceStudy(const core::Study& study) {
  if (isRunning())
    return Error{ErrorKind::NotAllowed, "the question cannot change while passes run", path(), "Stop first"};
  if (auto replaced = file_.replaceStudy(study); !replaced) return replaced;
  takeDesign();
  // Kept for the next study of this bench; a register that cannot be written holds nothing up.
  for (const core::Level& level : study.levels)
    if (!level.menu_path.empty() && !study.kind.empty())
      (void)benches_.setMenuPath(study.bench, study.kind, level.name, level.menu_path);
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::checkReady() const {
  if (const auto problems = core::problemsOf(study()); !problems.empty()) return problems.front();
  for (const core::ExactCommand& exact : core::commandsOf(study()))
    if (!exact.command.empty())
      if (const auto program = bench_.findProgram(exact.command.front(), folder()); !program) return program.error();
  std::vector<core::Command> behind_prefixes{study().measure_command, study().stability_command};
  for (const core::Case& a_case : study().cases)
    if (a_case.source != core::ResultSource::ByHand) behind_prefixes.push_back(a_case.command);
  for (const core::Command& command : behind_prefixes)  // there the program is not the first word
    if (!command.empty())
      if (const auto program = bench_.findProgram(command.front(), folder()); !program) return program.error();
  const auto& cases = study().cases;
  const bool is_recorded = std::any_of(cases.begin(), cases.end(), [](const core::Case& a_case) {
    return a_case.source == core::ResultSource::Recorded;
  });
  if (is_recorded)
    if (auto checked = FrameRecorder::check(); !checked) return checked;
  if (const auto unapproved = unapprovedActs(); !unapproved.empty())
    return Error{
        ErrorKind::NotApproved,
        core::countText(static_cast<int>(unapproved.size()), "act of this study is", "acts of this study are") +
            " not approved on this machine",
        path(), "Read them and approve them, or do not run the study"};
  return core::Done{};
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
  auto lock = FileLock::acquire(path());
  if (!lock) return lock.error();
  // Another program may have gone on with the study since it was read, or added to its plan. What is checked, and what
  // a person has approved, must be what then runs.
  auto recorded = file_.recorded();
  if (!recorded) return recorded.error();
  recorded_ = *std::move(recorded);
  takeDesign();
  if (auto ready = checkReady(); !ready) return ready;
  lock_.emplace(*std::move(lock));
  scratch_ = makeScratch();
  if (!scratch_)
    return Error{ErrorKind::Io, "no folder for the frame logs can be made", QDir::tempPath().toStdString(),
                 "Free some space there"};
  problem_.reset();
  is_stopping_ = is_suspending_ = false;
  takeNullStudy();
  running_.add(absolutePath());
  is_level_confirmed_ = true;
  failures_in_a_row_ = 0;
  is_player_ready_ = is_quiet_ = false;
  limit_.reset();
  setState(State::SettingLevel);
  QMetaObject::invokeMethod(this, &Session::goOn, Qt::QueuedConnection);
  return core::Done{};
}

// A study that visits each level once cannot see what flipping adds. The bench's latest null study can: its values are
// copied into the study before the first pass, so that the same study has the same numbers for good.
void Session::takeNullStudy() {
  if (study().is_null || study().plan.order != core::Order::Blocked || !recorded_.visits.empty()) return;
  const auto known = benches_.noise(registeredName());
  if (!known) return;
  core::NullRecord record;
  std::int64_t latest_ms = 0;
  for (const store::BenchRegister::Noise& one : *known) {
    const bool is_asked = std::any_of(study().cases.begin(), study().cases.end(),
                                      [&](const core::Case& a_case) { return core::isNoiseOf(one.measured, a_case); });
    if (!is_asked || !one.measured.noise.isUsable() || one.measured.visits.empty()) continue;
    latest_ms = std::max(latest_ms, one.at_ms);
    record.cases.push_back({one.measured.title, one.measured.visits});
  }
  if (record.cases.empty()) return;
  record.date = QDateTime::fromMSecsSinceEpoch(latest_ms).toString(QStringLiteral("yyyy-MM-dd")).toStdString();
  const std::string text = store::nullRecordToJson(record);
  const auto& events = recorded_.events;  // once, unless a newer one has come
  const bool is_known = std::any_of(events.begin(), events.end(), [&](const store::Event& event) {
    return event.kind == store::events::kNullStudy && event.text == text;
  });
  if (!is_known) (void)note(store::events::kNullStudy, "", text);
}

// What the next plans on this bench rest on: a finished null study, or the spread of whatever passes there are. The
// register repeats what the study holds.
void Session::rememberNoise() {
  if (study().is_null && nextSlot()) return;
  auto noise = study().is_null ? core::noiseOf(study(), recorded_.visits, recorded_.passes)
                               : core::pilotOf(study(), recorded_.visits, recorded_.passes);
  for (core::CaseNoise& one : noise)
    for (const core::Case& a_case : study().cases)
      if (a_case.title() == one.title) one.title = core::noiseTitle(a_case, person_);
  if (!noise.empty()) (void)benches_.addNoise(registeredName(), noise, now());
}

void Session::setState(State state) {
  state_ = state;
  if (!isRunning()) {
    if (lock_) rememberNoise();  // it ran until now
    // Nothing runs on a bench that a person takes for untouched. The lock goes last: until then the journal is ours.
    if (const auto restored = restoreSettings(); !restored && !problem_) {
      problem_ = restored.error();
      state_ = State::Held;
    }
    // A sheet that is held goes on after a restart; one that is done, or that a person stopped or is to flip, does not.
    if ((state_ == State::Idle || state_ == State::Finished) && !is_suspending_) running_.remove(absolutePath());
    lock_.reset();
  }
  Q_EMIT stateChanged();
}

void Session::hold(Error problem) {
  problem_ = std::move(problem);
  setState(State::Held);
}

void Session::finishStop() {
  is_stopping_ = false;
  setState(nextSlot() ? State::Idle : State::Finished);
}

void Session::goOn() {
  if (unfiled_) return filePass(*std::exchange(unfiled_, std::nullopt));
  if (limit_) return stopAtLimit();
  if (is_stopping_) return finishStop();
  const auto slot = nextSlot();
  const bool visit_goes_on = slot && isVisitInHand(schedule_[*slot]);
  if (visit_goes_on) is_level_confirmed_ = false;  // it was for this visit, not for the next level
  if (visit_goes_on && !settings_are_on_)          // a visit that was interrupted; its settings were put back then
    if (auto applied = applySettings(schedule_[*slot].side); !applied) return hold(applied.error());
  if (visit_goes_on && isStabilityDue()) return testStability();
  if (const auto due = measurementDue(visit_goes_on)) return measure(*due);
  if (visit_goes_on) return preparePass(*slot);
  if (auto closed = closeVisit(); !closed) return hold(closed.error());
  if (!slot) return setState(State::Finished);
  const bool is_confirmed = std::exchange(is_level_confirmed_, false);
  if ((waitsForPerson(schedule_[*slot]) || core::followsLook(study(), schedule_, *slot)) && !is_confirmed)
    return setState(State::Idle);
  setLevel(schedule_[*slot]);
}

// A level that a person sets waits until they have, and start it again. One that goes beyond what the maker set is not
// left unattended.
bool Session::waitsForPerson(const core::Slot& slot) const {
  return core::isSetByHand(study()) || core::raisesLimits(study().level(slot.side));
}

void Session::stopAfterPass() {
  if (!isRunning()) return;
  is_stopping_ = true;
  if (rest_.isWaiting() || awaitsPerson()) return stopNow();
  Q_EMIT stateChanged();
}

void Session::suspend() {
  is_suspending_ = true;
  stopNow();
}

void Session::stopNow() {
  if (!isRunning()) return;
  is_stopping_ = true;
  if (rest_.isWaiting() || awaitsPerson()) {
    rest_.stop();
    return finishStop();
  }
  if (command_) command_->stop();
  Q_EMIT stateChanged();
}

void Session::launch(const bench::CommandOrder& order, std::function<void(const bench::CommandOutcome&)> then) {
  command_ = bench_.start(order);
  connect(command_.get(), &bench::RunningCommand::finished, this,
          [this, then = std::move(then)](const bench::CommandOutcome& outcome) {
            // Out of the signal first: `then` may replace the command that is emitting it.
            QMetaObject::invokeMethod(
                this, [then, outcome] { then(outcome); }, Qt::QueuedConnection);
          });
}

}  // namespace session
