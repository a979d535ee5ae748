#include "session/far/bench_end.h"

#include <poll.h>
#include <signal.h>
#include <sys/inotify.h>
#include <unistd.h>

#include <QByteArray>
#include <QCoreApplication>
#include <QDateTime>
#include <QFile>
#include <QProcess>
#include <QStandardPaths>
#include <algorithm>
#include <array>
#include <filesystem>
#include <map>

#include "bench/capture.h"
#include "bench/local_bench.h"
#include "session/far/far_protocol.h"
#include "session/far/reached_study.h"
#include "session/study/acts.h"
#include "session/study/approvals.h"
#include "session/user/file_sum.h"
#include "session/user/person.h"
#include "store/json/capture_json.h"
#include "store/study/study_file.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
using core::Result;

constexpr std::uint64_t kPart = 4U << 20;  // of a study, in one message

Result<std::uint64_t> numberOf(const FarJson& ask, const char* name) {
  const auto found = ask.find(name);
  if (found == ask.end() || !found->is_number_unsigned() || found->get<std::uint64_t>() > kLargestStudy)
    return Error{ErrorKind::Malformed, std::string("a number is expected for ") + name, "",
                 "Install the same version at both ends"};
  return found->get<std::uint64_t>();
}

Result<FarJson> hello(const FarJson&, const UserFiles&) {
  return FarJson{{"protocol", kFarProtocol},
                 {"version", IRON_LEVER_VERSION},
                 {"host", hostName()},
                 {"user", personAtThisMachine()},
                 {"boot_id", bench::bootId(bench::LocalBench())}};
}

Result<FarJson> clock(const FarJson&, const UserFiles&) {
  return FarJson{{"clock_ms", QDateTime::currentMSecsSinceEpoch()}};
}

// As `iron-lever-cli capture` reads it here.
Result<FarJson> capture(const FarJson&, const UserFiles& files) {
  bench::LocalBench here;
  const auto with_root = bench::WithRootFacts::open(here, files.root_facts);
  const core::Capture taken = with_root ? bench::captureBench(*with_root) : bench::captureBench(here);
  return FarJson{{"capture", FarJson::parse(store::captureToJson(taken))}};
}

Result<FarJson> state(const FarJson& ask, const UserFiles& files) {
  const auto study = ReachedStudy::of(files, farText(ask, "study"));
  if (!study) return study.error();
  return FarJson{{"there", study->isThere()},
                 {"running", study->runner().has_value()},
                 {"path", study->study()},
                 {"boot_id", bench::bootId(bench::LocalBench())}};
}

// A piece behind the pieces before it, in a file beside the study; the last one puts it in its place, once its sum is
// what was said.
Result<FarJson> put(const FarJson& ask, const UserFiles& files) {
  const auto study = ReachedStudy::of(files, farText(ask, "study"));
  if (!study) return study.error();
  const auto at = numberOf(ask, "at");
  const auto whole = numberOf(ask, "of");
  if (!at) return at.error();
  if (!whole) return whole.error();
  if (study->runner()) return Error{ErrorKind::Busy, "its sheet runs", study->folder(), "Wait for it, or stop it"};
  std::error_code code;
  std::filesystem::create_directories(study->folder(), code);
  const std::string coming = study->folder() + "/coming";
  QFile file(QString::fromStdString(coming));
  if (!file.open(*at == 0 ? QIODevice::WriteOnly | QIODevice::Truncate : QIODevice::ReadWrite))
    return Error{ErrorKind::Io, "its folder cannot be written to", study->folder(), "Look at the disk there"};
  const QByteArray bytes = QByteArray::fromBase64(QByteArray::fromStdString(farText(ask, "bytes")));
  if (static_cast<std::uint64_t>(file.size()) != *at || !file.seek(file.size()))
    return Error{ErrorKind::Malformed, "a piece of the study is missing", coming, "Start it again"};
  if (file.write(bytes) != bytes.size() || !file.flush() || ::fsync(file.handle()) != 0)
    return Error{ErrorKind::DiskFull, "the study cannot be kept there", study->folder(), "Free some space there"};
  if (static_cast<std::uint64_t>(file.size()) < *whole) return FarJson{{"has", file.size()}};
  file.close();
  const auto sum = sha256Of(coming);
  if (!sum) return sum.error();
  if (*sum != farText(ask, "sha256"))
    return Error{ErrorKind::DamagedFile, "the study came damaged", coming, "Start it again"};
  {
    auto opened = store::StudyFile::open(coming);
    if (!opened) return opened.error();
    if (opened->identity() != farText(ask, "study"))
      return Error{ErrorKind::Malformed, "this is another study than it is called", coming,
                   "Install the same version at both ends"};
  }
  std::filesystem::rename(coming, study->study(), code);
  if (code) return Error{ErrorKind::Io, code.message(), study->study(), "Look at the disk there"};
  std::filesystem::remove(study->log(), code);
  return FarJson{{"has", *whole}, {"path", study->study()}};
}

// The study as it is now, whole, in a file beside it.
Result<FarJson> snapshot(const FarJson& ask, const UserFiles& files) {
  const auto study = ReachedStudy::of(files, farText(ask, "study"));
  if (!study) return study.error();
  auto file = store::StudyFile::open(study->study());
  if (!file) return file.error();
  const std::string going = study->folder() + "/going";
  std::error_code code;
  std::filesystem::remove(going, code);
  if (auto made = file->snapshotTo(going); !made) return made.error();
  const auto sum = sha256Of(going);
  if (!sum) return sum.error();
  return FarJson{{"of", std::filesystem::file_size(going, code)}, {"sha256", *sum}};
}

Result<FarJson> part(const FarJson& ask, const UserFiles& files) {
  const auto study = ReachedStudy::of(files, farText(ask, "study"));
  if (!study) return study.error();
  const auto at = numberOf(ask, "at");
  if (!at) return at.error();
  QFile file(QString::fromStdString(study->folder() + "/going"));
  if (!file.open(QIODevice::ReadOnly) || !file.seek(static_cast<qint64>(*at)))
    return Error{ErrorKind::Missing, "nothing of it is ready", study->folder(), "Ask for it again"};
  return FarJson{{"bytes", file.read(kPart).toBase64().toStdString()}};
}

// A process of its own: in a unit of this user's where systemd runs for them, else in a session of its own. Neither
// ends with the connection.
bool startRunner(const std::string& identity) {
  const QString program = QCoreApplication::applicationFilePath();
  const QStringList words{QStringLiteral("bench-run"), QString::fromStdString(identity)};
  const QString starter = QStandardPaths::findExecutable(QStringLiteral("systemd-run"));
  if (!starter.isEmpty()) {
    QStringList unit_words{QStringLiteral("--user"), QStringLiteral("--collect"), QStringLiteral("--quiet"),
                           QStringLiteral("--unit=iron-lever-") + QString::fromStdString(identity)};
    for (const char* name : {"PATH", "XDG_DATA_HOME", "XDG_STATE_HOME", "DISPLAY", "WAYLAND_DISPLAY", "XAUTHORITY"})
      if (qEnvironmentVariableIsSet(name)) unit_words << QStringLiteral("--setenv=") + QLatin1String(name);
    QProcess unit;
    unit.start(starter, unit_words + QStringList{QStringLiteral("--"), program} + words);
    constexpr int kWithin_ms = 10'000;
    if (unit.waitForFinished(kWithin_ms) && unit.exitStatus() == QProcess::NormalExit && unit.exitCode() == 0)
      return true;
  }
  QProcess detached;
  detached.setProgram(program);
  detached.setArguments(words);
  detached.setStandardInputFile(QProcess::nullDevice());  // else the connection would not end before it
  detached.setStandardOutputFile(QProcess::nullDevice());
  detached.setStandardErrorFile(QProcess::nullDevice());
  return detached.startDetached();
}

Result<FarJson> run(const FarJson& ask, const UserFiles& files) {
  const auto study = ReachedStudy::of(files, farText(ask, "study"));
  if (!study) return study.error();
  if (study->runner()) return Error{ErrorKind::Busy, "its sheet runs already", study->folder(), "Follow it"};
  if (!study->isThere()) return Error{ErrorKind::Missing, "the study is not there", study->folder(), "Bring it first"};
  std::error_code code;
  std::filesystem::remove(study->log(), code);
  const ReachedOrder order{farSays(ask, "approved"), farText(ask, "digest"), farSays(ask, "resumed"),
                           farSays(ask, "repeat_failed"), farText(ask, "person")};
  if (auto given = study->give(order); !given) return given.error();
  if (!startRunner(farText(ask, "study")))
    return Error{ErrorKind::Io, "its sheet cannot be started", study->folder(), "Start it again"};
  constexpr int kLooks = 500;  // of 20 ms
  for (int i = 0; i < kLooks; ++i) {
    if (study->runner() || std::filesystem::exists(study->log(), code)) return FarJson{{"started", true}};
    ::usleep(20'000);
  }
  return Error{ErrorKind::Io, "its sheet did not begin", study->folder(), "Start it again"};
}

Result<FarJson> stop(const FarJson& ask, const UserFiles& files) {
  const auto study = ReachedStudy::of(files, farText(ask, "study"));
  if (!study) return study.error();
  const auto runner = study->runner();
  if (runner) ::kill(*runner, SIGINT);
  return FarJson{{"stopped", runner.has_value()}};
}

// What nobody has approved here, as its sheet would ask for it.
Result<FarJson> acts(const FarJson& ask, const UserFiles& files) {
  const auto study = ReachedStudy::of(files, farText(ask, "study"));
  if (!study) return study.error();
  auto file = store::StudyFile::open(study->study());
  if (!file) return file.error();
  store::seeFromBench(*file);
  const auto all = actsOf(file->study(), study->folder(), bench::LocalBench());
  FarJson sentences = FarJson::array();
  for (const Act& act : Approvals(files.approvals).missing(all)) sentences.push_back(act.sentence());
  return FarJson{{"acts", sentences}, {"digest", digestOf(all)}};
}

using Handler = Result<FarJson> (*)(const FarJson&, const UserFiles&);
const std::map<std::string, Handler>& handlers() {
  static const std::map<std::string, Handler> all{
      {"hello", hello},       {"clock", clock}, {"capture", capture}, {"state", state}, {"put", put},
      {"snapshot", snapshot}, {"part", part},   {"run", run},         {"stop", stop},   {"acts", acts}};
  return all;
}

/// Wakes when a folder's files change, or something is asked.
class Watch {
 public:
  explicit Watch(const std::string& folder) : notify_(::inotify_init1(IN_CLOEXEC | IN_NONBLOCK)) {
    ::inotify_add_watch(notify_, folder.c_str(), IN_MODIFY | IN_CLOSE_WRITE | IN_CREATE | IN_MOVED_TO);
  }
  ~Watch() { ::close(notify_); }
  Watch(const Watch&) = delete;
  Watch& operator=(const Watch&) = delete;

  /// At the latest after a minute: a lock that is let go tells nobody.
  void wait(MessageStream& stream) {
    constexpr int kMinute_ms = 60'000;
    std::array<pollfd, 2> both{pollfd{stream.input(), POLLIN, 0}, pollfd{notify_, POLLIN, 0}};
    ::poll(both.data(), both.size(), kMinute_ms);
    std::array<char, 4096> events{};
    while (::read(notify_, events.data(), events.size()) > 0) {
    }
  }

 private:
  int notify_;
};

/// What a sheet says, line by line, from the beginning of its log.
class LogLines {
 public:
  explicit LogLines(std::string path) : path_(std::move(path)) {}
  /// Whole lines that were not told yet.
  [[nodiscard]] std::vector<std::string> more() {
    QFile file(QString::fromStdString(path_));
    std::vector<std::string> lines;
    if (!file.open(QIODevice::ReadOnly) || !file.seek(at_)) return lines;
    for (;;) {
      const QByteArray line = file.readLine(1 << 20);
      if (!line.endsWith('\n')) return lines;
      at_ += line.size();
      lines.push_back(line.chopped(1).toStdString());
    }
  }

 private:
  std::string path_;
  qint64 at_ = 0;
};

// Tells what a sheet says until it has ended, or something else is asked.
core::Status follow(const FarJson& ask, MessageStream& stream, const UserFiles& files) {
  const FarJson id = ask.value("id", FarJson());
  const auto study = ReachedStudy::of(files, farText(ask, "study"));
  if (!study) return stream.send({{"id", id}, {"failed", farErrorJson(study.error())}});
  Watch watch(study->folder());
  LogLines lines(study->log());
  for (;;) {
    const bool is_running = study->runner().has_value();  // asked first: what is said last is still read
    for (const std::string& line : lines.more())
      if (auto told = stream.send({{"id", id}, {"said", line}}); !told) return told;
    if (!is_running) return stream.send({{"id", id}, {"ended", true}});
    if (stream.hasMore(farDeadlineIn(0))) return stream.send({{"id", id}, {"ended", false}});
    watch.wait(stream);
  }
}

}  // namespace

FarJson answerAtBench(const FarJson& ask, const UserFiles& files) {
  const auto handler = handlers().find(farText(ask, "do"));
  Result<FarJson> done = handler == handlers().end()
                             ? Error{ErrorKind::Malformed, "nobody here knows how to do this", farText(ask, "do"),
                                     "Install the same version at both ends"}
                             : handler->second(ask, files);
  FarJson answer = done ? *std::move(done) : FarJson{{"failed", farErrorJson(done.error())}};
  if (const auto id = ask.find("id"); id != ask.end()) answer["id"] = *id;
  return answer;
}

core::Status serveBenchEnd(MessageStream& stream, const UserFiles& files) {
  for (;;) {
    const auto ask = stream.receive();
    if (!ask) return ask.error().kind == ErrorKind::Away ? core::Status(core::Done{}) : ask.error();
    const auto answered =
        farText(*ask, "do") == "follow" ? follow(*ask, stream, files) : stream.send(answerAtBench(*ask, files));
    if (!answered) return core::Done{};  // nobody reads any more
  }
}

}  // namespace session
