#include "session/sheet/step_search_run.h"

#include <algorithm>

#include <fmt/format.h>

#include "bench/capture.h"
#include "core/estimate/wording.h"
#include "core/machine/variable_kind.h"
#include "core/proof/contradiction.h"
#include "session/programs/pass_result.h"
#include "store/study/study_file.h"

namespace session {

using core::Error;
using core::ErrorKind;
using core::StepPhase;

namespace {

constexpr double kLongestTestS = 24 * 3600;  // a test for errors takes its time

bool needsRestart(const core::Variable& variable) {
  const core::VariableKind* kind = core::findVariableKind(variable.kind);
  return kind != nullptr && kind->needs_reboot;
}

}  // namespace

StepSearchRun::StepSearchRun(OpenStudy& open, Machine& machine, std::string journal,
                             std::function<std::string()> bench_name)
    : open_(open),
      machine_(machine),
      launcher_(machine.own()),
      settings_(std::move(journal)),
      bench_name_(std::move(bench_name)) {}

StepSearchRun::~StepSearchRun() {
  launcher_.drop();
  if (lock_) (void)settings_.restore(machine_.bench(), machine_.root(), open_.absolutePath());
}

core::Status StepSearchRun::start(How how) {
  if (isRunning()) return Error{ErrorKind::NotAllowed, "the search runs already", open_.path(), "Wait for its end"};
  auto lock = FileLock::acquire(open_.path(), open_.person());
  if (!lock) return lock.error();
  if (auto read = open_.read(); !read) return read;  // another program may have gone on with it
  machine_.takeDesign();
  if (const auto problems = core::searchProblems(study()); !problems.empty()) return problems.front();
  if (!open_.recorded().passes.empty())
    return Error{ErrorKind::NotAllowed, "passes are recorded: what holds is searched for before the first",
                 open_.path(), "Search in a new study of the same question"};
  if (auto found = machine_.findPrograms(); !found) return found;
  if (auto approved = checkApproved(); !approved) return approved;
  auto bench = NameLock::acquire(bench_name_());
  if (!bench)
    return Error{ErrorKind::Busy, "another study's sheet runs on this bench", open_.path(),
                 "Stop it there first: two at once would disturb each other"};
  bench_lock_ = *std::move(bench);
  lock_ = *std::move(lock);
  how_ = how;
  problem_.reset();
  goOn();
  return core::Done{};
}

core::Status StepSearchRun::checkApproved() const {
  if (machine_.unapprovedActs().empty()) return core::Done{};
  return Error{ErrorKind::NotApproved, "nothing was started", open_.path(), "Read what the study does and approve it"};
}

void StepSearchRun::stop() {
  if (!isRunning()) return;
  if (launcher_.isRunning()) return launcher_.stop();
  end(Ending::Stopped);
}

void StepSearchRun::goOn() {
  // What is started next is still what was approved.
  if (auto approved = checkApproved(); !approved) return end(Ending::CannotGoOn, approved.error());
  const std::vector<core::StepTried> told = store::recordOf(open_.recorded()).steps_tried;
  const core::StepSearch search = core::stepSearchOf(study(), told);
  if (search.isOver()) return conclude();
  const core::ConfigurationId step = *search.next;
  const core::Setup setup = core::setupOf(study(), step);
  if (core::raisesLimits(setup) && !how_.is_attended)
    return end(Ending::CannotGoOn,
               Error{ErrorKind::NotAllowed, "this step goes beyond what the maker set: nobody leaves it alone",
                     study().nameOf(step), "Stay with the machine, and say so: --attended"});
  if (isSetAlready(step)) return test(step);
  if (!isRunning()) return;  // it could not be noted
  const auto now = core::stepSearchOf(study(), store::recordOf(open_.recorded()).steps_tried);
  if (now.next != search.next) return goOn();  // what was begun before a restart has failed
  if (!core::isSetByHand(study())) return set(step);
  if (!how_.is_set) return end(Ending::WaitsForPerson);
  how_.is_set = false;
  if (const auto other = core::readOtherwise(study(), step, bench::captureBench(machine_.bench())))
    return end(Ending::CannotGoOn,
               Error{ErrorKind::NotAtLevel, *other, study().nameOf(step), "Set it, and go on with the search"});
  test(step);
}

// A test that a restart ended is a step that failed: the machine hung, or did not live through it. One that was killed
// in this boot says nothing, and is begun anew.
bool StepSearchRun::isSetAlready(core::ConfigurationId step) {
  const std::vector<core::StepTried> told = store::recordOf(open_.recorded()).steps_tried;
  if (told.empty() || told.back().configuration != step) return false;
  const bool is_other_boot = told.back().text != machine_.boot();
  if (told.back().phase == StepPhase::Testing && is_other_boot) {
    note(step, StepPhase::Failed, "the machine restarted in the middle of its test, or hung");
    return false;
  }
  return told.back().phase == StepPhase::Setting && is_other_boot && needsRestart(study().variable());
}

void StepSearchRun::set(core::ConfigurationId step) {
  if (!note(step, StepPhase::Setting, machine_.boot())) return;
  const core::Setup setup = core::setupOf(study(), step);
  if (auto back = settings_.restore(machine_.bench(), machine_.root(), open_.absolutePath()); !back)
    return end(Ending::CannotGoOn, back.error());
  if (auto written = settings_.apply(setup.writes, machine_.bench(), machine_.root(), open_.absolutePath()); !written) {
    if (written.error().kind != ErrorKind::OutOfRange) return end(Ending::CannotGoOn, written.error());
    return fail(step, "it cannot be set: " + written.error().sentence());
  }
  runSetCommand(step, 0);
}

void StepSearchRun::runSetCommand(core::ConfigurationId step, std::size_t place) {
  const std::vector<core::ExactCommand> commands = core::setupOf(study(), step).set_commands;
  if (place == commands.size()) {
    const bool waits = needsRestart(study().variable()) && !commands.empty() &&
                       store::recordOf(open_.recorded()).steps_tried.back().text == machine_.boot();
    return waits ? end(Ending::WaitsForRestart) : test(step);
  }
  const double limit_s = study().plan.time_limit_s;
  launcher_.launch({commands[place], open_.folder(), limit_s}, [=, this](const bench::CommandOutcome& outcome) {
    if (outcome.ending == bench::Ending::Stopped) return end(Ending::Stopped);
    if (const auto failure = failureOf(outcome, "setting " + study().nameOf(step), limit_s))
      return fail(step, "it cannot be set: " + failure->sentence());
    runSetCommand(step, place + 1);
  });
}

void StepSearchRun::test(core::ConfigurationId step) {
  if (!note(step, StepPhase::Testing, machine_.boot())) return;
  const double limit_s = std::max(study().plan.time_limit_s, kLongestTestS);
  launcher_.launch({core::stabilityCommand(study(), step), open_.folder(), limit_s},
                   [=, this](const bench::CommandOutcome& outcome) {
                     if (outcome.ending == bench::Ending::Stopped) return end(Ending::Stopped);
                     const auto failure = failureOf(outcome, "the test for errors", limit_s);
                     if (failure) return fail(step, failure->what);
                     if (note(step, StepPhase::Held, "no error in " + core::durationText(outcome.duration_s))) goOn();
                   });
}

void StepSearchRun::fail(core::ConfigurationId step, const std::string& why) {
  if (note(step, StepPhase::Failed, why)) goOn();
}

// The sheet takes the levels that hold, and knows of the others why not.
void StepSearchRun::conclude() {
  const core::Record record = store::recordOf(open_.recorded());
  const core::StepSearch search = core::stepSearchOf(study(), record.steps_tried);
  const auto isKnown = [&](core::ConfigurationId at) {
    return record.stable.contains(at) ||
           std::any_of(record.unreachable.begin(), record.unreachable.end(),
                       [&](const core::Unreachable& one) { return one.configuration == at; });
  };
  for (const core::ConfigurationId at : core::configurationsOf(study())) {
    if (isKnown(at)) continue;
    std::string why = "above a step that does not hold";
    bool was_held = false;
    for (const core::StepTried& one : record.steps_tried) {
      if (one.configuration != at) continue;
      was_held = was_held || one.phase == StepPhase::Held;
      if (one.phase == StepPhase::Failed) why = "not stable: " + one.text;
    }
    const bool holds = search.highest && at <= *search.highest;
    if (holds && !was_held) continue;  // below where the search began
    const core::Status noted = holds ? open_.note(core::LevelStable{at, "found by the search, no error"})
                                     : open_.note(core::Unreachable{at, why});
    if (!noted) return end(Ending::CannotGoOn, noted.error());
  }
  end(Ending::Over);
}

bool StepSearchRun::note(core::ConfigurationId step, StepPhase phase, const std::string& text) {
  if (auto noted = open_.note(core::StepTried{step, phase, text}); !noted) {
    end(Ending::CannotGoOn, noted.error());
    return false;
  }
  Q_EMIT changed();
  return true;
}

void StepSearchRun::end(Ending ending, std::optional<Error> problem) {
  const auto back = settings_.restore(machine_.bench(), machine_.root(), open_.absolutePath());
  ending_ = back || problem ? ending : Ending::CannotGoOn;
  problem_ = std::move(problem);
  if (!back && !problem_) problem_ = back.error();
  bench_lock_.reset();
  lock_.reset();
  Q_EMIT changed();
  Q_EMIT finished();
}

}  // namespace session
