#include "session/session.h"

#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <algorithm>
#include <map>
#include <set>

#include <fmt/format.h>

#include "bench/capture.h"
#include "bench/graphics_load.h"
#include "bench/local_bench.h"
#include "core/stated_fact.h"
#include "core/variable_kind.h"
#include "store/json_result.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

constexpr const char* kRepeat = "repeat";
constexpr const char* kFlip = "flip";
// So often a machine is restarted for one visit; then something keeps the sheet from going on.
constexpr std::size_t kMostFlipsInVain = 5;
// So long after its start a pass is surely under way, and a link no longer sinks.
constexpr int kUnderLoadMs = 1500;

std::int64_t now() { return QDateTime::currentMSecsSinceEpoch(); }

core::ExactCommand withLogPath(core::ExactCommand exact, const std::string& path) {
  constexpr std::string_view kPlace = "{log}";
  for (std::string& word : exact.command)
    for (auto at = word.find(kPlace); at != std::string::npos; at = word.find(kPlace, at + path.size()))
      word.replace(at, kPlace.size(), path);
  return exact;
}

}  // namespace

Session::Session(store::StudyFile file, bench::BenchConnection& bench, const UserFiles& files, std::string person)
    : file_(std::move(file)),
      bench_(bench),
      approvals_(files.approvals),
      settings_(files.settings),
      benches_(files.benches),
      running_(files.running),
      root_facts_(files.root_facts),
      person_(std::move(person)) {
  settling_.setSingleShot(true);
  connect(&settling_, &QTimer::timeout, this, &Session::goOn);
  schedule_ = core::scheduleOf(study());
  if (!study().machine.empty()) stand_in_ = std::make_unique<bench::LocalBench>(machineRoot());
  auto recorded = file_.recorded();
  if (recorded)
    recorded_ = *std::move(recorded);
  else
    problem_ = recorded.error();
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

std::string Session::machineRoot() const { return study().machine.empty() ? "" : folder() + "/" + study().machine; }

int Session::attemptsOf(std::size_t slot) const {
  return static_cast<int>(std::count_if(recorded_.passes.begin(), recorded_.passes.end(),
                                        [&](const core::Pass& pass) { return pass.slot == slot; }));
}

bool Session::isPending(std::size_t slot) const {
  for (const core::Pass& pass : recorded_.passes)
    if (pass.slot == slot && pass.status == core::PassStatus::Finished) return false;
  const std::string subject = std::to_string(slot);
  const auto granted = std::count_if(recorded_.events.begin(), recorded_.events.end(), [&](const store::Event& event) {
    return event.kind == kRepeat && event.subject == subject;
  });
  return attemptsOf(slot) < 1 + study().plan.retries + granted;
}

std::optional<std::size_t> Session::nextSlot() const {
  for (std::size_t slot = 0; slot < schedule_.size(); ++slot)
    if (isPending(slot)) return slot;
  return std::nullopt;
}

double Session::secondsInPass() const {
  return slot_in_hand_ ? static_cast<double>(now() - pass_started_ms_) / 1000.0 : 0;
}

std::optional<double> Session::secondsLeft() const {
  std::map<std::size_t, std::pair<double, int>> by_case;
  double total_s = 0;
  for (const core::Pass& pass : recorded_.passes) {
    auto& [sum, count] = by_case[schedule_[pass.slot].case_index];
    sum += pass.duration_s;
    ++count;
    total_s += pass.duration_s;
  }
  if (recorded_.passes.empty()) return std::nullopt;
  const double usual_s = total_s / static_cast<double>(recorded_.passes.size());
  double left_s = 0;
  for (std::size_t slot = 0; slot < schedule_.size(); ++slot) {
    if (!isPending(slot)) continue;
    const auto known = by_case.find(schedule_[slot].case_index);
    left_s += known == by_case.end() ? usual_s : known->second.first / known->second.second;
  }
  return std::max(0.0, left_s - secondsInPass());
}

std::string Session::liveLogPath() const {
  return scratch_ ? scratch_->filePath(QStringLiteral("frames.csv")).toStdString() : "";
}

std::vector<core::ExactCommand> Session::unapprovedCommands() const {
  return approvals_.missing(core::actsOf(study()), folder());
}

core::Status Session::approve() {
  auto approved = approvals_.approve(core::actsOf(study()), folder());
  if (approved) Q_EMIT stateChanged();
  return approved;
}

core::Status Session::replaceStudy(const core::Study& study) {
  if (isRunning())
    return Error{ErrorKind::NotAllowed, "the question cannot change while passes run", path(), "Stop first"};
  if (auto replaced = file_.replaceStudy(study); !replaced) return replaced;
  schedule_ = core::scheduleOf(this->study());
  stand_in_ = this->study().machine.empty() ? nullptr : std::make_unique<bench::LocalBench>(machineRoot());
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
    if (const auto program = bench_.findProgram(exact.command.front(), folder()); !program) return program.error();
  if (!study().measure_command.empty())
    if (const auto program = bench_.findProgram(study().measure_command.front(), folder()); !program)
      return program.error();
  for (const core::Case& a_case : study().cases)  // behind a prefix the program is not the first word
    if (const auto program = bench_.findProgram(a_case.command.front(), folder()); !program) return program.error();
  if (const auto unapproved = unapprovedCommands(); !unapproved.empty())
    return Error{ErrorKind::NotApproved,
                 std::to_string(unapproved.size()) + " commands of this study are not approved on this machine", path(),
                 "Read them and approve them, or do not run the study"};
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
  if (auto ready = checkReady(); !ready) return ready;
  auto lock = FileLock::acquire(path());
  if (!lock) return lock.error();
  lock_.emplace(*std::move(lock));
  // Another program may have gone on with the study since it was read.
  auto recorded = file_.recorded();
  if (!recorded) return recorded.error();
  recorded_ = *std::move(recorded);
  scratch_ = std::make_unique<QTemporaryDir>(QDir::tempPath() + QStringLiteral("/iron-lever-XXXXXX"));
  if (!scratch_->isValid())
    return Error{ErrorKind::Io, "no folder for the frame logs can be made", QDir::tempPath().toStdString(),
                 "Free some space there"};
  problem_.reset();
  is_stopping_ = is_suspending_ = false;
  running_.add(absolutePath());
  is_level_confirmed_ = true;
  failures_in_a_row_ = 0;
  setState(State::SettingLevel);
  QMetaObject::invokeMethod(this, &Session::goOn, Qt::QueuedConnection);
  return core::Done{};
}

void Session::setState(State state) {
  state_ = state;
  if (!isRunning()) {
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
  if (is_stopping_) return finishStop();
  const auto slot = nextSlot();
  const bool visit_goes_on = slot && isVisitInHand(schedule_[*slot]);
  if (visit_goes_on && !settings_are_on_)  // a visit that was interrupted; its settings were put back then
    if (auto applied = applySettings(schedule_[*slot].side); !applied) return hold(applied.error());
  if (const auto due = measurementDue(visit_goes_on)) return measure(*due);
  if (visit_goes_on) return runPass(*slot);
  if (auto closed = closeVisit(); !closed) return hold(closed.error());
  if (!slot) return finish();
  // The next level is for a person to set: the sheet waits until they have, and start it again.
  if (core::isSetByHand(study()) && !std::exchange(is_level_confirmed_, false)) return setState(State::Idle);
  setLevel(schedule_[*slot]);
}

// A finished null study is what the next plans on this bench rest on. The register repeats what the study holds.
void Session::finish() {
  if (study().is_null)
    (void)benches_.addNoise(registeredName(), core::noiseOf(study(), recorded_.visits, recorded_.passes), now());
  setState(State::Finished);
}

// Before the first pass of a visit, and again after its last one: a level that sagged under load is found out.
std::optional<core::CaptureMoment> Session::measurementDue(bool visit_goes_on) const {
  if (study().measure_command.empty() || recorded_.visits.empty()) return std::nullopt;
  const core::Visit& visit = recorded_.visits.back();
  const auto is_measured = [&](core::CaptureMoment moment) {
    return core::measurementOf(visit.id, moment, recorded_.measurements) != nullptr;
  };
  const bool has_passes = std::any_of(recorded_.passes.begin(), recorded_.passes.end(),
                                      [&](const core::Pass& pass) { return pass.visit_id == visit.id; });
  if (visit_goes_on && !has_passes && !is_measured(core::CaptureMoment::Start)) return core::CaptureMoment::Start;
  if (!visit_goes_on && isVisitOpen() && has_passes && !is_measured(core::CaptureMoment::End))
    return core::CaptureMoment::End;
  return std::nullopt;
}

// Can the end of the last visit still be seen? Not after a restart, and not once its settings were put back: a capture
// now would say that the level did not hold.
bool Session::isVisitOpen() const {
  if (recorded_.visits.empty()) return false;
  const core::Visit& visit = recorded_.visits.back();
  const bool stands_as_set = settings_are_on_ || study().level(visit.side).writes.empty();
  return stands_as_set && visit.boot_id == bench::bootId(machine()) && !hasCapture(visit.id, core::CaptureMoment::End);
}

// A level that cannot be measured does not stop the sheet: that it was not is on record, and becomes a doubt.
void Session::measure(core::CaptureMoment moment) {
  const core::Visit& visit = recorded_.visits.back();
  setState(State::Measuring);
  const double limit_s = study().plan.time_limit_s;
  launch({core::measureCommand(study(), visit.side), folder(), limit_s},
         [this, moment, limit_s](const bench::CommandOutcome& outcome) {
           if (outcome.ending == bench::Ending::Stopped) return finishStop();
           core::VisitMeasurement measured{recorded_.visits.back().id, moment, {}, {}};
           if (const auto failure = failureOf(outcome, "measuring", limit_s)) {
             measured.failure = failure->sentence();
           } else if (auto readings = store::readingsFromJson(outcome.output)) {
             measured.readings = *std::move(readings);
           } else {
             measured.failure = readings.error().sentence();
           }
           if (auto filed = file_.addMeasurement(measured); !filed) return hold(filed.error());
           recorded_.measurements.push_back(std::move(measured));
           goOn();
         });
}

core::Status Session::applySettings(core::Side side) {
  settings_are_on_ = true;
  return settings_.apply(study().level(side).writes, machine(), machineRoot(), absolutePath());
}

core::Status Session::restoreSettings() {
  if (!std::exchange(settings_are_on_, false)) return core::Done{};
  if (study().levels[0].writes.empty() && study().levels[1].writes.empty()) return core::Done{};
  return settings_.restore(machine(), absolutePath());
}

bool Session::hasCapture(std::int64_t visit_id, core::CaptureMoment moment) const {
  return std::any_of(recorded_.captures.begin(), recorded_.captures.end(),
                     [&](const core::VisitCapture& one) { return one.visit_id == visit_id && one.moment == moment; });
}

core::Status Session::captureVisit(core::CaptureMoment moment) {
  const std::int64_t visit_id = recorded_.visits.back().id;
  if (hasCapture(visit_id, moment)) return core::Done{};
  core::VisitCapture taken{visit_id, moment, captureNow()};
  if (auto filed = file_.addCapture(taken); !filed) return filed;
  // The register repeats what the study holds: one that cannot be written holds nothing up.
  if (moment == core::CaptureMoment::Start) (void)benches_.add(registeredName(), taken.capture);
  recorded_.captures.push_back(std::move(taken));
  return core::Done{};
}

core::Capture Session::captureNow() const {
  const auto with_root = bench::WithRootFacts::open(machine(), root_facts_);
  core::Capture capture = with_root ? bench::captureBench(*with_root) : bench::captureBench(machine());
  for (core::Fact& fact : store::statedFactsOf(recorded_)) capture.put(std::move(fact));
  return capture;
}

// Proof is repeated after the last pass: a level that sagged under load is found out.
core::Status Session::closeVisit() {
  return isVisitOpen() ? captureVisit(core::CaptureMoment::End) : core::Status(core::Done{});
}

// While a pass is surely under way: which graphics device is busy, in each; and once a visit, in its first pass that is
// long enough (the warm-up, where there is one), the whole bench. A capture that cannot be filed is left out: the pass
// goes on, and what is wrong with the file stops the sheet when the pass itself is filed.
void Session::lookUnderLoad(std::size_t slot_index) {
  loads_.clear();
  const std::int64_t started_ms = pass_started_ms_;
  QTimer::singleShot(kUnderLoadMs, this, [this, slot_index, started_ms] {
    if (slotInHand() != slot_index || pass_started_ms_ != started_ms) return;  // a short pass is over by now
    loads_ = bench::graphicsLoads(machine());
    if (loads_.size() < 2) loads_.clear();  // with one device there is no question
    (void)captureVisit(core::CaptureMoment::UnderLoad);
  });
}

// The visit goes on only if nothing but passes has happened since it began. A restart makes it another one.
bool Session::isVisitInHand(const core::Slot& slot) const {
  if (recorded_.visits.empty()) return false;
  const core::Visit& last = recorded_.visits.back();
  return last.planned == slot.visit && last.boot_id == bench::bootId(machine()) &&
         !hasCapture(last.id, core::CaptureMoment::End);
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

// A command that sets a level may restart the machine. The restart that it was to bring is known by another boot since;
// whether the level took hold is for the proof to say.
bool Session::isFlippedByRestart(const core::Slot& slot) const {
  const auto last = std::find_if(recorded_.events.rbegin(), recorded_.events.rend(),
                                 [](const store::Event& event) { return event.kind == kFlip; });
  if (last == recorded_.events.rend() || last->subject != std::to_string(slot.visit)) return false;
  const bool is_begun = std::any_of(recorded_.visits.begin(), recorded_.visits.end(), [&](const core::Visit& visit) {
    return visit.planned == slot.visit && visit.started_ms >= last->at_ms;
  });
  return !is_begun && !last->text.empty() && last->text != bench::bootId(machine());
}

// In how many boots the level was to be set since a visit last began.
std::size_t Session::flipsInVain(const core::Slot& slot) const {
  const std::int64_t since_ms = recorded_.visits.empty() ? 0 : recorded_.visits.back().started_ms;
  std::set<std::string> boots;
  for (const store::Event& event : recorded_.events)
    if (event.kind == kFlip && event.subject == std::to_string(slot.visit) && event.at_ms > since_ms)
      boots.insert(event.text);
  return boots.size();
}

void Session::setLevel(const core::Slot& slot) {
  const core::Level& level = study().level(slot.side);
  if (auto restored = restoreSettings(); !restored) return hold(restored.error());
  if (auto applied = applySettings(slot.side); !applied) return hold(applied.error());
  if (level.set_command.empty() || isFlippedByRestart(slot)) return beginVisit(slot);
  if (is_resumed_ && flipsInVain(slot) >= kMostFlipsInVain)
    return hold({ErrorKind::CommandFailed, fmt::format("{} restarts in a row brought no visit", kMostFlipsInVain),
                 "setting " + study().variable + " to " + level.name,
                 "Look why the sheet does not go on after the restart, then start it yourself"});
  // On the disk before the command runs: it may restart the machine, and us with it.
  if (auto noted = note(kFlip, std::to_string(slot.visit), bench::bootId(machine())); !noted)
    return hold(noted.error());
  setState(State::SettingLevel);
  const double limit_s = study().plan.time_limit_s;
  const std::string boot = bench::bootId(machine());
  launch({{{}, level.set_command, {}}, folder(), limit_s},
         [this, slot, limit_s, boot](const bench::CommandOutcome& outcome) {
           if (outcome.ending == bench::Ending::Stopped) return finishStop();
           const std::string where = "setting " + study().variable + " to " + study().level(slot.side).name;
           if (const auto failure = failureOf(outcome, where, limit_s)) return hold(*failure);
           // A command that asks for a restart is back before the machine goes down: no pass must begin meanwhile.
           const core::VariableKind* kind = core::findVariableKind(study().kind);
           if (kind && kind->needs_reboot && boot == bench::bootId(machine()))
             return hold({ErrorKind::NotAllowed, "this variable needs a restart, and the machine has not restarted yet",
                          where, "Wait for the restart, or restart it; the sheet goes on after it"});
           beginVisit(slot);
         });
}

void Session::beginVisit(const core::Slot& slot) {
  auto visit = file_.addVisit({0, slot.visit, slot.round, slot.side, bench::bootId(machine()), now()});
  if (!visit) return hold(visit.error());
  recorded_.visits.push_back(*visit);
  if (auto taken = captureVisit(core::CaptureMoment::Start); !taken) return hold(taken.error());
  if (study().plan.settle_s <= 0) return goOn();
  settling_.start(static_cast<int>(1000 * study().plan.settle_s));
  setState(State::Settling);
}

void Session::runPass(std::size_t slot_index) {
  const core::Slot& slot = schedule_[slot_index];
  const core::Case& a_case = study().cases[slot.case_index];
  const std::string log_path = liveLogPath();
  QFile::remove(QString::fromStdString(log_path));  // a pass never reads the log of the one before
  pass_started_ms_ = now();
  slot_in_hand_ = slot_index;
  setState(State::RunningPass);
  lookUnderLoad(slot_index);
  const double limit_s = study().plan.time_limit_s;
  const core::ExactCommand exact = withLogPath(core::passCommand(study().level(slot.side), a_case), log_path);
  launch({exact, folder(), limit_s}, [this, slot_index, log_path, limit_s](const bench::CommandOutcome& outcome) {
    slot_in_hand_.reset();
    if (outcome.ending == bench::Ending::Stopped) return finishStop();
    const core::Case& measured_case = study().cases[schedule_[slot_index].case_index];
    MeasuredPass measured = measurePass(outcome, measured_case, study().target_fps, limit_s, log_path);
    measured.pass.slot = slot_index;
    measured.pass.attempt = attemptsOf(slot_index) + 1;
    measured.pass.visit_id = recorded_.visits.back().id;
    measured.pass.loads = std::exchange(loads_, {});
    filePass(std::move(measured));
  });
}

void Session::filePass(MeasuredPass measured) {
  auto filed = file_.addPass(measured.pass, measured.frame_ms);
  if (!filed) {
    unfiled_ = std::move(measured);  // a finished pass is not thrown away because a disk is full
    return hold(filed.error());
  }
  filed->output.clear();
  filed->error_output.clear();
  recorded_.passes.push_back(*filed);
  failures_in_a_row_ = filed->status == core::PassStatus::Failed ? failures_in_a_row_ + 1 : 0;
  Q_EMIT passFiled(*filed);
  if (failures_in_a_row_ >= study().plan.most_failures_in_a_row)
    return hold({ErrorKind::CommandFailed, fmt::format("{} passes in a row failed", failures_in_a_row_), filed->failure,
                 "Something is wrong with the bench, not with one pass: put it right, then go on"});
  goOn();
}

void Session::stopAfterPass() {
  if (!isRunning()) return;
  is_stopping_ = true;
  if (settling_.isActive()) return stopNow();
  Q_EMIT stateChanged();
}

void Session::suspend() {
  is_suspending_ = true;
  stopNow();
}

void Session::stopNow() {
  if (!isRunning()) return;
  is_stopping_ = true;
  if (settling_.isActive()) {
    settling_.stop();
    return finishStop();
  }
  if (command_) command_->stop();
  Q_EMIT stateChanged();
}

core::Status Session::repeatFailed() {
  for (std::size_t slot = 0; slot < schedule_.size(); ++slot) {
    const bool has_failed = attemptsOf(slot) > 0 && !isPending(slot) &&
                            std::none_of(recorded_.passes.begin(), recorded_.passes.end(), [&](const core::Pass& pass) {
                              return pass.slot == slot && pass.status == core::PassStatus::Finished;
                            });
    if (!has_failed) continue;
    if (auto noted = note(kRepeat, std::to_string(slot), "another attempt at a failed pass"); !noted) return noted;
  }
  if (!isRunning()) setState(nextSlot() ? State::Idle : State::Finished);
  return core::Done{};
}

core::Status Session::acceptDoubt(const std::string& doubt_id, const std::string& reason) {
  if (reason.find_first_not_of(" \t\n") == std::string::npos)
    return Error{ErrorKind::OutOfRange, "a doubt is accepted with a reason only", "reason",
                 "Say why it does not matter here"};
  if (auto noted = note("accepted", doubt_id, reason); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::addNote(const std::string& text) {
  if (text.find_first_not_of(" \t\n") == std::string::npos)
    return Error{ErrorKind::OutOfRange, "an empty note says nothing", "note", "Write what happened"};
  if (auto noted = note("note", "", text); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::state(const std::string& fact_id, const std::string& value) {
  if (!value.empty())
    if (auto fact = core::statedFact(fact_id, value, person_); !fact) return fact.error();
  if (auto noted = note("stated", fact_id, value); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::openEarly(const std::string& reason) {
  if (!study().plan.is_sealed || !nextSlot())
    return Error{ErrorKind::NotAllowed, "nothing is sealed", path(), "The results are open to everybody"};
  if (reason.find_first_not_of(" \t\n") == std::string::npos)
    return Error{ErrorKind::OutOfRange, "results are opened early with a reason only", "reason",
                 "Say why it cannot wait; it stands in the study and its report"};
  if (auto noted = note("opened_early", "", reason); !noted) return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::declareUnreachable(core::Side side, const std::string& reason) {
  if (isRunning())
    return Error{ErrorKind::NotAllowed, "a level is not given up while the sheet runs", path(), "Stop first"};
  if (reason.find_first_not_of(" \t\n") == std::string::npos)
    return Error{ErrorKind::OutOfRange, "a level is called not reachable with a reason only", "reason",
                 "Say what was tried, and what happened"};
  if (auto noted = note("not_reachable", side == core::Side::Baseline ? "baseline" : "changed", reason); !noted)
    return noted;
  Q_EMIT stateChanged();
  return core::Done{};
}

core::Status Session::note(const std::string& kind, const std::string& subject, const std::string& text) {
  const store::Event event{0, now(), person_, kind, subject, text};
  if (auto added = file_.addEvent(event); !added) return added;
  recorded_.events.push_back(event);
  return core::Done{};
}

}  // namespace session
