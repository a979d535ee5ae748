#include <signal.h>

#include <QCoreApplication>
#include <QObject>

#include <fmt/format.h>

#include "bench/local_bench.h"
#include "cli/commands.h"
#include "cli/commands/approval.h"
#include "cli/commands/far.h"
#include "cli/commands/progress.h"
#include "cli/commands/run_to_end.h"
#include "cli/commands/stop_signals.h"
#include "core/estimate/wording.h"
#include "core/judgement/judgement.h"
#include "core/record/flip_guide.h"
#include "core/record/looks.h"
#include "core/values/shown_text.h"
#include "session/study/checklist.h"
#include "session/user/person.h"

namespace cli {
namespace {

std::string passLine(const session::Session& session, const core::Pass& pass) {
  const core::Slot& slot = session.open().schedule()[pass.slot];
  const core::Case& a_case = session.study().cases[slot.case_index];
  const bool is_sealed = core::isSealed(session.study(), store::recordOf(session.recorded()), a_case);
  const std::string what = pass.value && is_sealed     ? "filed"
                           : pass.value                ? core::valueText(*pass.value, a_case.metric.unit)
                           : pass.does_not_run.empty() ? "FAILED: " + pass.failure
                                                       : "does not run here: " + pass.does_not_run;
  return fmt::format("{:>3} of {}  {} · {} · {} {}: {}\n", pass.slot + 1, session.open().schedule().size(),
                     session.study().nameOf(slot.configuration), a_case.title(), slot.is_warm_up ? "warm-up" : "pass",
                     slot.number, what);
}

}  // namespace

core::Status approveOrExplain(session::Session& session, const RunOptions& options, std::ostream& out) {
  return approveOrExplain(
      session.machine(), session.open().path(), [&] { return session.approve(); }, options, out);
}

core::Status approveOrExplain(const session::Machine& machine, const std::string& study_path,
                              const std::function<core::Status()>& approve, const RunOptions& options,
                              std::ostream& out) {
  const auto unapproved = machine.unapprovedActs();
  if (unapproved.empty()) return core::Done{};
  const std::string digest = session::digestOf(machine.acts());
  const bool is_what_was_read = options.digest.empty() || options.digest == digest;
  if (options.is_approved && is_what_was_read)
    if (auto approved = approve(); !approved) return approved;
  out << (options.is_approved && is_what_was_read
              ? "Approved for this machine, with its programs as they are now:\n"
              : "This study does this here, which nobody on this machine has approved:\n");
  for (const session::Act& act : unapproved) out << "  " << act.sentence() << '\n';
  if (!is_what_was_read)
    return core::Error{core::ErrorKind::NotApproved, "this is not what was read: its digest is " + digest, study_path,
                       "Read it anew, then approve that; nothing was approved or started"};
  if (options.is_approved) return core::Done{};
  return core::Error{
      core::ErrorKind::NotApproved, "nothing was started", study_path,
      "If you trust all of it, run it again with --approve, or with --approve=" + digest + " to approve exactly this"};
}

core::Result<ExitCode> runToEnd(session::Session& session, const std::function<bool(const core::Pass&)>& on_pass,
                                bool is_resumed) {
  bool is_stopped = false;
  const StopSignals stop_signals([&](int number, bool /*is_of_terminal*/) {
    is_stopped = true;
    // The machine goes down: after its restart the sheet goes on.
    session.stop(number == SIGTERM ? session::Stop::ForRestart : session::Stop::Now);
  });
  QObject life;
  QObject::connect(&session, &session::Session::passFiled, &life, [&](const core::Pass& pass) {
    if (on_pass(pass)) return;
    is_stopped = true;  // nobody reads what we say any more
    session.stop(session::Stop::Now);
  });
  core::Status started = is_resumed ? session.resume() : session.start();
  if (started) {
    QObject::connect(&session, &session::Session::stateChanged, &life, [&] {
      if (session::awaitsPerson(session.state())) return session.stop(session::Stop::Now);  // nobody sits here
      if (!session.isRunning()) QCoreApplication::exit(0);
    });
    QCoreApplication::exec();
  }
  if (!started) return started.error();
  if (session.state() == session::State::Held) return *session.problem();
  if (!session.nextSlot()) return ExitCode::Done;
  return is_stopped ? ExitCode::Stopped : ExitCode::WaitsForPerson;
}

// What a person does before the sheet can go on.
static void printWhatIsNext(const session::Session& session, std::size_t next, std::ostream& out) {
  const core::Study& study = session.study();
  const core::Slot& slot = session.open().schedule()[next];
  const core::Case& a_case = study.cases[slot.case_index];
  const auto& visits = session.recorded().visits;
  const bool is_new_visit = visits.empty() || visits.back().planned != slot.visit;
  const core::FlipGuide guide =
      core::flipGuide(study, slot.configuration, visits.empty() ? std::nullopt : std::optional(visits.back()));
  if (is_new_visit && !guide.steps.empty()) {
    out << fmt::format("Now bring {} to {} by hand:\n", study.bench, study.nameOf(slot.configuration));
    for (const std::string& step : guide.steps) out << "  - " << step << '\n';
    for (const session::ChecklistPoint& point : session::dueChecklist(session.open()))
      out << fmt::format("  [{}] {}\n", point.is_done ? 'x' : ' ', core::shownLine(point.text));
    out << "Cautions:\n";
    for (const std::string& caution : guide.cautions) out << "  - " << caution << '\n';
  }
  if (a_case.source == core::ResultSource::ByHand)
    out << fmt::format(
        "The next pass is run by hand: iron-lever-cli type {} RESULT, then run the same command again.\n",
        session.open().path());
  else if (a_case.is_played)
    out << "The next pass is played by hand: open the study in the window.\n";
  else
    out << (guide.steps.empty() ? "Stopped. Run the same command again to go on.\n"
                                : "Then run the same command again.\n");
}

// The bench is not at the level that was asked: three ways on, each as it is typed.
static void printHowToGoOn(const session::Session& session, std::ostream& out) {
  const std::string path = core::shownWord(session.open().path());
  const std::string level = core::shownWord(session.study().nameOf(session.open().visit()->configuration));
  out << fmt::format(
      "No pass was run. Set {0} and run the same command again; or measure it all the same:\n"
      "  iron-lever-cli measure-anyway {1} 'how you know that it is set'\n"
      "or record that it cannot be reached:\n"
      "  iron-lever-cli not-reachable {1} {0} 'what was tried'\n",
      level, path);
}

using OnPass = std::function<bool(const session::Session& session, const core::Pass& pass)>;

static core::Result<ExitCode> runHere(const RunOptions& options, std::ostream& out, const OnPass& told) {
  auto file = store::StudyFile::open(options.study_path);
  if (!file) return file.error();
  if (options.is_at_bench) store::seeFromBench(*file);
  bench::LocalBench bench;
  const auto own_files = session::UserFiles::ofThisUser();
  if (!own_files) return own_files.error();
  const session::UserFiles& files = *own_files;
  const std::string person = session::personAtThisMachine();
  for (const std::string& sentence : session::putBackLeftOvers(files, person)) out << sentence << ".\n";
  session::Session session(*std::move(file), bench, files, person);
  if (session.problem()) return *session.problem();
  if (auto approved = approveOrExplain(session, options, out); !approved) return approved.error();
  if (options.repeats_failed)
    if (auto granted = session.decisions().repeatFailed(); !granted) return granted.error();
  if (!session.nextSlot()) {
    out << "The plan is complete: nothing is left to run.\n";
    return ExitCode::Done;
  }
  const auto on_pass = [&](const core::Pass& pass) { return told(session, pass); };
  const auto ended = runToEnd(session, on_pass, options.is_resumed);
  if (!ended && ended.error().kind == core::ErrorKind::NotAtLevel) printHowToGoOn(session, out);
  if (!ended) return ended;
  if (session.nextSlot()) {
    printWhatIsNext(session, *session.nextSlot(), out);
    return ended;
  }
  for (const core::Unreachable& one : store::recordOf(session.recorded()).unreachable)
    out << fmt::format("{} has no result: {}\n", session.study().nameOf(one.configuration), one.reason);
  const core::Claim claim = core::judgementOf(session.study(), store::recordOf(session.recorded())).claim;
  out << claim.sentence() << ".\n";
  if (!claim.safety.empty()) out << claim.safety << ".\n";
  return ExitCode::Done;
}

static core::Result<ExitCode> runTellingJson(const RunOptions& options, std::ostream& out) {
  JsonProgress progress(out);
  const auto told = [&](const session::Session& session, const core::Pass& pass) {
    std::string line = passLine(session, pass);
    line.pop_back();
    return progress.pass(session, pass, line);
  };
  auto ended = runHere(options, progress.said(), told);
  const ExitCode code = ended ? *ended : exitCodeOf(ended.error());
  progress.ended(static_cast<int>(code), ended ? nullptr : &ended.error());
  return ended;
}

// A study that nobody can open says so where it is run.
static bool isFar(const RunOptions& options) {
  const auto file = store::StudyFile::open(options.study_path);
  return file && !options.is_at_bench && !file->study().ssh_name.empty();
}

core::Result<ExitCode> runCommand(const RunOptions& options, std::ostream& out) {
  if (isFar(options)) return runFarCommand(options, out);
  if (options.tells_json) return runTellingJson(options, out);
  return runHere(options, out, [&](const session::Session& session, const core::Pass& pass) {
    if (!options.is_quiet) out << passLine(session, pass) << std::flush;
    return out.good();
  });
}

}  // namespace cli
