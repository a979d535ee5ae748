// Benches that are other computers: what the desk does, and what the bench's end does for it.
#include <signal.h>
#include <unistd.h>

#include <QByteArray>
#include <array>
#include <atomic>
#include <fstream>
#include <memory>

#include <fmt/format.h>

#include "bench/local_bench.h"
#include "cli/commands.h"
#include "cli/commands/approval.h"
#include "cli/commands/far.h"
#include "cli/commands/progress.h"
#include "core/values/shown_text.h"
#include "session/far/bench_end.h"
#include "session/far/far_course.h"
#include "session/far/far_look.h"
#include "session/far/far_sheet.h"
#include "session/user/file_lock.h"
#include "session/user/person.h"
#include "session/user/study_list.h"
#include "store/json/json_text.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using session::FarJson;
using session::FarSheet;

std::atomic<int> heard_signal = 0;

/// An interrupt ends the sheet there; a hangup, or this computer going down, leaves it to itself.
class HeardSignals {
 public:
  HeardSignals() {
    heard_signal = 0;
    struct sigaction action {};
    action.sa_handler = [](int number) { heard_signal = number; };
    for (std::size_t i = 0; i < kSignals.size(); ++i) ::sigaction(kSignals[i], &action, &before_[i]);
  }
  ~HeardSignals() {
    for (std::size_t i = 0; i < kSignals.size(); ++i) ::sigaction(kSignals[i], &before_[i], nullptr);
  }
  HeardSignals(const HeardSignals&) = delete;
  HeardSignals& operator=(const HeardSignals&) = delete;
  static FarSheet::Wish wish() {
    const int number = heard_signal;
    if (number == SIGINT) return FarSheet::Wish::Stop;
    return number == 0 ? FarSheet::Wish::GoOn : FarSheet::Wish::Leave;
  }

 private:
  static constexpr std::array kSignals{SIGINT, SIGTERM, SIGHUP};
  std::array<struct sigaction, 3> before_{};
};

/// A study whose bench is far, ready for its sheet.
struct FarStudy {
  FarStudy(store::StudyFile file, session::UserFiles own)
      : open(std::move(file), session::personAtThisMachine()), files(std::move(own)) {}
  session::OpenStudy open;
  session::UserFiles files;
};

core::Result<std::unique_ptr<FarStudy>> openFar(const std::string& path) {
  auto file = store::StudyFile::open(path);
  if (!file) return file.error();
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  auto study = std::make_unique<FarStudy>(*std::move(file), *files);
  if (auto read = study->open.read(); !read) return read.error();
  return study;
}

// What is approved here is only that ssh is started for that bench; what the study does there is approved there.
core::Result<session::ReachedOrder> orderFor(FarStudy& study, const RunOptions& options, std::ostream& out) {
  bench::LocalBench here;
  session::Machine machine(here, study.open, study.files.approvals);
  const bool was_approved = machine.unapprovedActs().empty();
  if (auto approved = approveOrExplain(
          machine, study.open.path(), [&] { return machine.approve(); }, options, out);
      !approved)
    return approved.error();
  session::ReachedOrder order;
  order.is_approved = options.is_approved && (was_approved || options.digest.empty());
  order.digest = order.is_approved ? options.digest : "";
  order.is_resumed = options.is_resumed;
  order.repeats_failed = options.repeats_failed;
  order.person = study.open.person();
  return order;
}

void print(const FarJson& event, const RunOptions& options, std::ostream& out) {
  if (options.tells_json) {
    out << store::jsonText(event) << '\n' << std::flush;
    return;
  }
  const bool is_pass = event.value("event", FarJson()) == "pass";
  const auto text = event.find("text");
  if (text == event.end() || !text->is_string() || (is_pass && options.is_quiet)) return;
  out << core::shownText(text->get<std::string>()) << '\n' << std::flush;
}

core::Result<ExitCode> runFollowed(FarSheet& sheet, FarStudy& study, const RunOptions& options, std::ostream& out) {
  const auto order = orderFor(study, options, out);
  if (!order) return order.error();
  const std::string& name = study.open.study().ssh_name;
  const bool is_told = !options.tells_json && !options.is_quiet;
  const session::FarWatcher watcher{[&](const FarSheet& connected) {
                                      if (!is_told) return;
                                      out << fmt::format("Connected to {}: {}. Its clock is {}.\n", name,
                                                         core::shownLine(connected.hello().host),
                                                         connected.clocks().text());
                                      if (const std::string remedy = connected.clocks().remedy(); !remedy.empty())
                                        out << remedy << ".\n";
                                    },
                                    [&](bool ran_already) {
                                      if (ran_already && !options.tells_json)
                                        out << "Its sheet runs there already; this follows it.\n" << std::flush;
                                      else if (is_told)
                                        out << fmt::format("At {}:\n", name) << std::flush;
                                    },
                                    [&](const FarJson& event) { print(event, options, out); }};
  const auto end = session::runThere(sheet, study.open, *order, watcher);
  if (!end) return end.error();
  switch (end->how) {
    case session::FarEnd::How::WasComplete:
      if (options.tells_json)
        JsonProgress(out).ended(static_cast<int>(ExitCode::Done), nullptr);
      else
        out << "The plan is complete: nothing is left to run.\n";
      return ExitCode::Done;
    case session::FarEnd::How::Left:
      if (!options.tells_json)
        out << fmt::format(
            "Its sheet goes on at {}. Run the same command again to follow it and to fetch what it files.\n", name);
      return ExitCode::Stopped;
    case session::FarEnd::How::Ended: break;
  }
  return static_cast<ExitCode>(end->code);
}

}  // namespace

core::Result<ExitCode> runFarCommand(const RunOptions& options, std::ostream& out) {
  auto opened = openFar(options.study_path);
  if (!opened) return opened.error();
  const auto& study = *opened;
  auto lock = session::FileLock::acquire(study->open.path(), study->open.person());
  if (!lock) return lock.error();
  const HeardSignals heard;
  const session::StudyList running(study->files.running);
  running.add(study->open.absolutePath());
  FarSheet sheet(study->open, study->files, &HeardSignals::wish);
  auto ended = runFollowed(sheet, *study, options, out);
  if (ended && *ended != ExitCode::Stopped) running.remove(study->open.absolutePath());
  return ended;
}

core::Result<FarStanding> farStanding(const std::string& study_path) {
  auto opened = openFar(study_path);
  if (!opened) return opened.error();
  const auto& study = *opened;
  FarSheet sheet(study->open, study->files, [] { return FarSheet::Wish::GoOn; });
  if (auto connected = sheet.connect(); !connected) return connected.error();
  const auto running = sheet.isRunning();
  if (!running) return running.error();
  // While a pass runs the connection keeps still; what is filed meanwhile is fetched once it has ended.
  if (!*running)
    if (const auto fetched = sheet.fetch(); !fetched) return fetched.error();
  return FarStanding{study->open.study().ssh_name, *running, sheet.clocks().ahead_ms, sheet.clocks().text()};
}

core::Result<core::Capture> farCapture(const session::SshLink::To& to) {
  auto look = session::lookThere(to);
  if (!look) return look.error();
  return look->capture;
}

core::Status benchEndCommand() {
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  session::MessageStream stream(STDIN_FILENO, STDOUT_FILENO);
  return session::serveBenchEnd(stream, *files);
}

core::Result<ExitCode> benchRunCommand(const std::string& identity, bool is_resumed) {
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  const auto study = session::ReachedStudy::of(*files, identity);
  if (!study) return study.error();
  const auto runner = study->becomeRunner();  // until this process ends
  if (!runner) return runner.error();
  const auto order = study->order();
  if (!order) return order.error();
  if (!order->person.empty()) qputenv("IRON_LEVER_PERSON", QByteArray::fromStdString(order->person));
  std::ofstream log(study->log(), std::ios::trunc);
  RunOptions options;
  options.study_path = study->study();
  options.is_approved = order->is_approved;
  options.digest = order->digest;
  options.is_resumed = is_resumed || order->is_resumed;
  options.repeats_failed = order->repeats_failed && !is_resumed;
  options.tells_json = true;
  options.is_at_bench = true;
  return runCommand(options, log);
}

}  // namespace cli
