#include "session/far/ssh_link.h"

#include <fcntl.h>
#include <signal.h>
#include <spawn.h>
#include <sys/mman.h>
#include <sys/socket.h>
#include <sys/wait.h>
#include <unistd.h>

#include <QDateTime>
#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include <fmt/format.h>

#include "core/values/shown_text.h"
#include "session/far/far_protocol.h"

extern char** environ;

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

constexpr double kConnectWithin_s = 55;  // so that a bench that is away is named within a minute

std::vector<std::string> wordsFor(const SshLink::To& to) {
  std::vector<std::string> words{"ssh", "-T",
                                 "-o",  "BatchMode=yes",
                                 "-o",  "ConnectTimeout=40",
                                 "-o",  "ServerAliveInterval=30",
                                 "-o",  "ServerAliveCountMax=3"};
  if (!to.config.empty()) words.insert(words.end(), {"-F", to.config});
  words.insert(words.end(), {"--", to.name, "iron-lever-cli bench-end"});
  return words;
}

}  // namespace

core::Error sshError(const std::string& name, int exit_code, const std::string& said) {
  const auto says = [&](std::string_view words) { return said.find(words) != std::string::npos; };
  constexpr int kNotFound = 127;
  if (says("HOST IDENTIFICATION HAS CHANGED") || says("host key for") || says("Host key verification failed"))
    return says("HOST IDENTIFICATION HAS CHANGED")
               ? Error{ErrorKind::NotAllowed, "its host key is another one than the one that is known", name,
                       "Ask whoever runs it whether it was set up anew; if so, forget the old key with ssh-keygen -R. "
                       "Nothing was started"}
               : Error{ErrorKind::NotAllowed, "its host key is not known", name,
                       "Connect to it once by ssh, compare the key that it shows, and accept it"};
  if (says("Permission denied") || says("Too many authentication failures"))
    return {ErrorKind::Denied, "ssh does not get in without a password", name,
            "Set up a key for it: ssh-keygen, ssh-copy-id"};
  if (exit_code == kNotFound || says("not found"))
    return {ErrorKind::Missing, "iron-lever-cli is not on the path there", name,
            "Install the package there, or put its programs on the PATH of a login without a terminal"};
  std::string last = said;
  while (!last.empty() && (last.back() == '\n' || last.back() == '\r')) last.pop_back();
  last = last.substr(last.rfind('\n') + 1);
  return {ErrorKind::Away, last.empty() ? "it is away: it does not answer" : "it is away: " + core::shownLine(last),
          name, "See that it is on and connected; what is measured there goes on and is fetched later"};
}

core::Result<std::unique_ptr<SshLink>> SshLink::open(const To& to) {
  std::unique_ptr<SshLink> link(new SshLink(to.name));
  if (auto started = link->start(to); !started) return started.error();
  if (auto greeted = link->greet(); !greeted) return greeted.error();
  return link;
}

SshLink::~SshLink() {
  end_.reset();
  if (socket_ >= 0) ::close(socket_);
  if (ssh_ > 0) {
    ::kill(ssh_, SIGTERM);  // it ends by itself once nobody reads; a connection that hangs does not
    ::waitpid(ssh_, nullptr, 0);
  }
  if (words_ >= 0) ::close(words_);
}

// In a process group of its own: an interrupt of the terminal is for us, who end the sheet there by it.
core::Status SshLink::start(const To& to) {
  std::array<int, 2> ends{};
  words_ = ::memfd_create("ssh-words", MFD_CLOEXEC);
  if (words_ < 0 || ::socketpair(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0, ends.data()) != 0)
    return Error{ErrorKind::Io, "no connection can be made", name_, "Close other programs"};
  socket_ = ends[0];
  posix_spawn_file_actions_t actions;
  posix_spawnattr_t attributes;
  posix_spawn_file_actions_init(&actions);
  posix_spawnattr_init(&attributes);
  posix_spawn_file_actions_adddup2(&actions, ends[1], STDIN_FILENO);
  posix_spawn_file_actions_adddup2(&actions, ends[1], STDOUT_FILENO);
  posix_spawn_file_actions_adddup2(&actions, words_, STDERR_FILENO);
  posix_spawnattr_setflags(&attributes, POSIX_SPAWN_SETPGROUP);
  std::vector<std::string> words = wordsFor(to);
  std::vector<char*> arguments;
  for (std::string& word : words) arguments.push_back(word.data());
  arguments.push_back(nullptr);
  const int failed = ::posix_spawnp(&ssh_, "ssh", &actions, &attributes, arguments.data(), environ);
  posix_spawn_file_actions_destroy(&actions);
  posix_spawnattr_destroy(&attributes);
  ::close(ends[1]);
  if (failed != 0) {
    ssh_ = 0;
    return Error{ErrorKind::Missing, "ssh is not on this computer", name_, "Install the package openssh-client"};
  }
  stream_ = std::make_unique<MessageStream>(socket_, socket_);
  end_.emplace(to.end, [socket = socket_] { ::shutdown(socket, SHUT_RDWR); });
  return core::Done{};
}

core::Status SshLink::greet() {
  const auto answer = ask({{"do", "hello"}, {"protocol", kFarProtocol}}, farDeadlineIn(kConnectWithin_s));
  if (!answer) return answer.error();
  const auto protocol = answer->find("protocol");
  hello_ = {farText(*answer, "version"), farText(*answer, "host"), farText(*answer, "user"),
            farText(*answer, "boot_id")};
  if (protocol == answer->end() || !protocol->is_number_integer() || protocol->get<int>() != kFarProtocol)
    return Error{ErrorKind::NewerFile,
                 "the program there is version " + core::shownLine(hello_.version) + ", which speaks otherwise", name_,
                 "Install version " IRON_LEVER_VERSION " there, or that one here"};
  return core::Done{};
}

std::string SshLink::said() const {
  std::string words(4096, '\0');
  const ssize_t got = ::pread(words_, words.data(), words.size(), 0);
  words.resize(got > 0 ? static_cast<std::size_t>(got) : 0);
  return words;
}

// Whose end it was: ssh has ended and says why, or what came is none of ours.
core::Error SshLink::explained(const core::Error& error) {
  if (error.kind == ErrorKind::Away || error.kind == ErrorKind::Malformed) {
    int status = 0;
    constexpr int kLooks = 20;  // it ends a moment after its connection has
    for (int i = 0; i < kLooks && ssh_ > 0; ++i) {
      if (::waitpid(ssh_, &status, WNOHANG) == ssh_) {
        ssh_ = 0;
        const std::string words = said();
        const int code = WIFEXITED(status) ? WEXITSTATUS(status) : 255;
        if (error.kind == ErrorKind::Away || code != 0) return sshError(name_, code, words);
      }
      ::usleep(10'000);
    }
  }
  Error told = error;
  if (told.where.empty()) told.where = name_;
  if (told.kind == ErrorKind::Away) told.what = "it is away: " + told.what;
  return told;
}

core::Result<std::int64_t> SshLink::send(FarJson ask) {
  ask["id"] = ++asks_;
  if (const auto sent = stream_->send(ask, farDeadlineIn(kConnectWithin_s)); !sent) return explained(sent.error());
  return asks_;
}

core::Result<FarJson> SshLink::next(FarDeadline deadline) {
  auto message = stream_->receive(deadline);
  if (!message) return explained(message.error());
  if (const auto failed = message->find("failed"); failed != message->end()) {
    if (message->value("id", FarJson()) != asks_) return message;  // of an ask for which nobody waits any more
    Error error = farErrorFrom(*failed);
    error.where = error.where.empty() ? name_ : name_ + ": " + error.where;
    return error;
  }
  return message;
}

core::Result<FarJson> SshLink::ask(const FarJson& ask, FarDeadline deadline) {
  const auto id = send(ask);
  if (!id) return id.error();
  for (;;) {
    auto message = next(deadline);
    if (!message || message->value("id", FarJson()) == *id) return message;
  }
}

core::Result<core::ClockDifference> SshLink::compareClocks() {
  constexpr int kTimes = 5;
  std::optional<core::ClockDifference> best;
  for (int i = 0; i < kTimes; ++i) {
    const auto before = std::chrono::steady_clock::now();
    const auto before_ms = static_cast<double>(QDateTime::currentMSecsSinceEpoch());
    const auto answer = ask({{"do", "clock"}});
    if (!answer) return answer.error();
    const double way_ms = std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - before).count();
    const auto clock = answer->find("clock_ms");
    if (clock == answer->end() || !clock->is_number())
      return Error{ErrorKind::Malformed, "it does not say what its clock shows", name_,
                   "Install the same version at both ends"};
    constexpr double kStep_ms = 1;  // both clocks are read in whole ones
    const core::ClockDifference one{clock->get<double>() - before_ms - way_ms / 2, way_ms / 2 + kStep_ms};
    if (!best || one.within_ms < best->within_ms) best = one;
  }
  return *best;
}

}  // namespace session
