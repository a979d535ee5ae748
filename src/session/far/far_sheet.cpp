#include "session/far/far_sheet.h"

#include <unistd.h>

#include <QByteArray>
#include <QCryptographicHash>
#include <QFile>
#include <QTemporaryDir>
#include <algorithm>
#include <filesystem>

#include <fmt/format.h>

#include "bench/local_bench.h"
#include "core/values/shown_text.h"
#include "session/far/far_protocol.h"
#include "session/study/acts.h"
#include "session/study/approvals.h"
#include "session/study/flip_under_way.h"
#include "session/study/machine.h"
#include "session/user/scratch.h"
#include "store/benches/bench_register.h"
#include "store/study/study_merge.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

constexpr qint64 kPiece = 4 << 20;
constexpr double kPatience_s = 15 * 60;

Error noScratch(const std::string& path) {
  return {ErrorKind::Io, "there is no folder for what comes and goes", path, "Free disk space"};
}

}  // namespace

SshLink::To sshTo(const core::Study& study, const std::string& folder) {
  return {study.ssh_name, study.ssh_config.empty() ? "" : studyPath(study.ssh_config, folder).full};
}

// Asked each time, whoever asks: a configuration of ssh may start programs, and may be another one by now.
core::Status FarSheet::checkApproved() const {
  const bench::LocalBench here;
  if (Approvals(files_.approvals).missing(actsOf(open_.study(), open_.folder(), here)).empty()) return core::Done{};
  return Error{ErrorKind::NotApproved, "nobody here has approved that ssh is started for " + open_.study().ssh_name,
               open_.path(), "Read what would be started, and approve it: iron-lever-cli run STUDY"};
}

core::Status FarSheet::connect() {
  if (auto approved = checkApproved(); !approved) return approved;
  SshLink::To to = sshTo(open_.study(), open_.folder());
  to.end = end_;
  auto link = SshLink::open(to);
  if (!link) return link.error();
  link_ = *std::move(link);
  const auto clocks = link_->compareClocks();
  if (!clocks) return clocks.error();
  clocks_ = *clocks;
  heard_ = 0;
  return core::Done{};
}

core::Result<FarSheet::ActsThere> FarSheet::actsThere() {
  const auto answer = link_->ask(asked("acts"));
  if (!answer) return answer.error();
  ActsThere acts{{}, farText(*answer, "digest")};
  const auto sentences = answer->find("acts");
  if (sentences == answer->end() || !sentences->is_array())
    return Error{ErrorKind::Malformed, "it does not say what would be started", link_->name(),
                 "Install the same version at both ends"};
  for (const FarJson& one : *sentences)
    if (one.is_string()) acts.sentences.push_back(one.get<std::string>());
  return acts;
}

core::Result<bool> FarSheet::isRunning() {
  const auto state = link_->ask(asked("state"));
  if (!state) return state.error();
  path_there_ = farText(*state, "path");
  return farSays(*state, "running");
}

core::Result<int> FarSheet::fetch() {
  const auto state = link_->ask(asked("state"));
  if (!state) return state.error();
  if (!farSays(*state, "there")) return 0;
  const auto ready = link_->ask(asked("snapshot"));
  if (!ready) return ready.error();
  const auto whole = ready->find("of");
  const auto scratch = makeScratch();
  if (!scratch) return noScratch(open_.path());
  QFile file(scratch->filePath(QStringLiteral("fetched.ironlever")));
  if (whole == ready->end() || !whole->is_number_unsigned() || whole->get<std::uint64_t>() > kLargestStudy ||
      !file.open(QIODevice::WriteOnly))
    return Error{ErrorKind::Malformed, "it does not say how large the study is", link_->name(),
                 "Install the same version at both ends"};
  QCryptographicHash hash(QCryptographicHash::Sha256);
  while (static_cast<std::uint64_t>(file.size()) < whole->get<std::uint64_t>()) {
    FarJson ask = asked("part");
    ask["at"] = static_cast<std::uint64_t>(file.size());
    const auto part = link_->ask(ask);
    if (!part) return part.error();
    const QByteArray bytes = QByteArray::fromBase64(QByteArray::fromStdString(farText(*part, "bytes")));
    if (bytes.isEmpty())
      return Error{ErrorKind::Malformed, "the study ends before it should", link_->name(),
                   "Run the same command again"};
    hash.addData(bytes);
    if (file.write(bytes) != bytes.size() || !file.flush())
      return Error{ErrorKind::DiskFull, "the study cannot be kept", scratch->path().toStdString(), "Free disk space"};
  }
  file.close();
  if (hash.result().toHex().toStdString() != farText(*ready, "sha256"))
    return Error{ErrorKind::DamagedFile, "the study came damaged", link_->name(), "Run the same command again"};
  const std::size_t passes = open_.recorded().passes.size();
  if (auto taken = take(file.fileName().toStdString()); !taken) return taken.error();
  return static_cast<int>(open_.recorded().passes.size() - passes);
}

// What comes is checked as any study from elsewhere, before anything of it is taken.
core::Status FarSheet::take(const std::string& copy) {
  {
    auto opened = store::StudyFile::open(copy);
    if (!opened) return opened.error();
    if (const auto whole = opened->recorded(); !whole) return whole.error();
  }
  const std::size_t captures = open_.recorded().captures.size();
  if (const auto merged = store::takeRecorded(open_.file(), copy); !merged) return merged.error();
  if (auto read = open_.read(); !read) return read;
  // The register repeats what the study holds: one that cannot be written holds nothing up.
  store::BenchRegister benches(files_.benches);
  const auto& all = open_.recorded().captures;
  for (std::size_t i = captures; i < all.size(); ++i)
    if (all[i].moment == core::CaptureMoment::Start) (void)benches.add(registeredName(open_.study()), all[i].capture);
  return core::Done{};
}

core::Status FarSheet::start(const ReachedOrder& order) {
  const auto scratch = makeScratch();
  if (!scratch) return noScratch(open_.path());
  const std::string copy = scratch->filePath(QStringLiteral("brought.ironlever")).toStdString();
  if (auto made = open_.file().snapshotTo(copy); !made) return made;
  QFile file(QString::fromStdString(copy));
  QCryptographicHash hash(QCryptographicHash::Sha256);
  if (!file.open(QIODevice::ReadOnly) || !hash.addData(&file) || !file.seek(0))
    return Error{ErrorKind::Io, "the study cannot be read", copy, "Free disk space"};
  FarJson put = asked("put");
  put["of"] = static_cast<std::uint64_t>(file.size());
  put["sha256"] = hash.result().toHex().toStdString();
  for (qint64 at = 0; at < file.size(); at += kPiece) {
    put["at"] = static_cast<std::uint64_t>(at);
    put["bytes"] = file.read(kPiece).toBase64().toStdString();
    if (const auto taken = link_->ask(put); !taken) return taken.error();
  }
  (void)open_.note(core::ClocksCompared{clocks_});
  told_ = heard_ = 0;
  return goOnThere(order);
}

core::Status FarSheet::goOnThere(const ReachedOrder& order) {
  FarJson run = asked("run");
  run["approved"] = order.is_approved;
  run["digest"] = order.digest;
  run["resumed"] = order.is_resumed;
  run["repeat_failed"] = order.repeats_failed;
  run["person"] = order.person;
  if (const auto begun = link_->ask(run); !begun) return begun.error();
  if (const auto running = isRunning(); !running) return running.error();
  return core::Done{};
}

// Every pass tells when it was by the bench's clock; this tells how that stood to the clock here, at the sheet's
// beginning and at its end, and what it went off between the two.
core::Result<int> FarSheet::fetchAtEnd() {
  auto fetched = fetch();
  const auto clocks = fetched ? link_->compareClocks() : core::Result<core::ClockDifference>(fetched.error());
  if (!clocks) return clocks.error();
  clocks_ = *clocks;
  (void)open_.note(core::ClocksCompared{clocks_});
  return fetched;
}

core::Status FarSheet::tell(const FarJson& message, const Said& take) {
  if (const auto over = message.find("ended"); over != message.end()) {
    has_ended_ = over->is_boolean() && over->get<bool>();
    return core::Done{};
  }
  if (++heard_ <= told_) return core::Done{};  // before the connection broke
  ++told_;
  FarJson event = FarJson::parse(farText(message, "said"), nullptr, false);
  if (!event.is_object()) return core::Done{};
  if (auto text = farText(event, "text"); !text.empty() && !path_there_.empty()) {
    for (std::size_t at = 0; (at = text.find(path_there_, at)) != std::string::npos;)
      text.replace(at, path_there_.size(), open_.path());
    event["text"] = text;
  }
  if (farText(event, "event") == "ended") ended_ = event;
  has_passed_ = has_passed_ || farText(event, "event") == "pass";
  take(event);
  return core::Done{};
}

// Everything that it says until it has ended, or somebody wants something else.
core::Status FarSheet::hear(const Said& said) {
  has_ended_ = false;
  heard_ = 0;
  if (const auto following = link_->send(asked("follow")); !following) return following.error();
  bool is_stopping = false;
  while (!has_ended_) {
    const Wish wish = wish_();
    is_left_ = wish == Wish::Leave;
    if (is_left_) return core::Done{};
    if (wish == Wish::Stop && !std::exchange(is_stopping, true))
      if (const auto stopped = link_->send(asked("stop")); !stopped) return stopped.error();
    if (!link_->hasNext(farDeadlineIn(0.5))) continue;
    const auto message = link_->next(farDeadlineIn(60));
    if (!message) return message.error();
    if (message->contains("stopped")) {  // followed on, to its end
      heard_ = 0;
      if (const auto again = link_->send(asked("follow")); !again) return again.error();
      continue;
    }
    if (auto told = tell(*message, said); !told) return told;
  }
  return core::Done{};
}

// What was lost is only the connection, or the bench restarts.
core::Status FarSheet::reconnect(const Error& lost) {
  const FarDeadline until = farDeadlineIn(kPatience_s);
  link_.reset();
  while (std::chrono::steady_clock::now() < until) {
    if (wish_() != Wish::GoOn) {
      is_left_ = true;
      return core::Done{};
    }
    const auto connected = connect();
    if (connected) return connected;
    if (connected.error().kind != ErrorKind::Away) return connected;
    ::usleep(500'000);
  }
  return lost;
}

// An answer, however often the connection breaks; nothing to go on with where the sheet is left to itself meanwhile.
core::Result<FarJson> FarSheet::askWhenBack(const char* what) {
  for (;;) {
    auto answer = link_->ask(asked(what));
    if (answer || answer.error().kind != ErrorKind::Away) return answer;
    if (auto again = reconnect(answer.error()); !again) return again.error();
    if (is_left_) return FarJson::object();
  }
}

// A command that asks for a restart is back before the machine goes down, and the sheet there does not go on in the
// boot that is to end. Where that is how it ended, the bench is waited for. False where no restart is due, or none came
// in a quarter of an hour: then a person is called.
core::Result<bool> FarSheet::awaitRestart() {
  const auto error = ended_->find("error");
  if (error == ended_->end() || farErrorFrom(*error).kind != ErrorKind::NotAllowed) return false;
  for (auto fetched = fetch(); !fetched; fetched = fetch()) {  // the bench may go down meanwhile
    if (fetched.error().kind != ErrorKind::Away) return fetched.error();
    if (auto again = reconnect(fetched.error()); !again) return again.error();
    if (is_left_) return false;
  }
  const auto flip = flipUnderWay(open_.recorded());
  const FarDeadline until = farDeadlineIn(kPatience_s);
  while (flip && std::chrono::steady_clock::now() < until) {
    if (wish_() == Wish::Stop) return false;
    is_left_ = wish_() == Wish::Leave;
    if (is_left_) return false;
    const auto state = askWhenBack("state");
    if (!state) return state.error();
    if (is_left_) return false;
    if (farText(*state, "boot_id") != flip->boot_id) return true;
    ::usleep(500'000);
  }
  return false;
}

core::Result<std::optional<int>> FarSheet::follow(const ReachedOrder& order, const Said& said) {
  ended_.reset();
  for (;;) {
    const auto heard = hear(said);
    if (is_left_) return std::optional<int>();
    if (!heard) {
      if (heard.error().kind != ErrorKind::Away) return heard.error();
      if (auto again = reconnect(heard.error()); !again) return again.error();
      if (is_left_) return std::optional<int>();
      continue;
    }
    if (ended_) {
      const auto has_restarted = awaitRestart();
      if (!has_restarted) return has_restarted.error();
      if (is_left_) return std::optional<int>();
      if (!*has_restarted) break;
      ended_.reset();
    }
    // It ended without a word: it was killed, or the bench lost its power; or it waited for a restart that came.
    constexpr int kMostInVain = 3;
    restarts_in_vain_ = std::exchange(has_passed_, false) ? 1 : restarts_in_vain_ + 1;
    if (restarts_in_vain_ > kMostInVain)
      return Error{ErrorKind::CommandFailed, "its sheet ends again and again without a word", link_->name(),
                   "Look at the bench; what was filed there is kept"};
    told_ = 0;
    ReachedOrder again = order;
    again.is_resumed = true;
    again.repeats_failed = false;
    if (auto begun = goOnThere(again); !begun) return begun.error();
  }
  if (const auto error = ended_->find("error"); error != ended_->end()) return farErrorFrom(*error);
  const auto code = ended_->find("code");
  return std::optional<int>(code != ended_->end() && code->is_number_integer() ? code->get<int>() : 1);
}

}  // namespace session
