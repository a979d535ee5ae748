#pragma once

#include <sys/types.h>

#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <stop_token>
#include <string>

#include "core/record/bench_clock.h"
#include "session/far/message_stream.h"

namespace session {

/// What the other side says of itself first.
struct FarHello {
  std::string version;  ///< of the program there
  std::string host;
  std::string user;
  std::string boot_id;
};

/// A connection to the program at a bench, by the system's own ssh with its keys, its configuration and its known
/// hosts: it never asks for a password, and nothing but the fixed start of the bench's end stands on its command line.
/// One thread at a time.
class SshLink {
 public:
  struct To {
    std::string name;          ///< as ssh takes it
    std::string config = {};   ///< a configuration; empty: ssh's own
    std::stop_token end = {};  ///< asks for an end from another thread: whatever is waited for is then away
  };
  /// Connects, and hears what is there. Errors  Away: it does not answer, within a minute; Denied: ssh has no key for
  /// it; NotAllowed: another host key than the known one; Missing: the program is not there, or ssh is not here;
  /// NewerFile: another version of what the two speak; Malformed: what answers is something else
  [[nodiscard]] static core::Result<std::unique_ptr<SshLink>> open(const To& to);
  ~SshLink();
  SshLink(const SshLink&) = delete;
  SshLink& operator=(const SshLink&) = delete;

  [[nodiscard]] const std::string& name() const { return name_; }
  [[nodiscard]] const FarHello& hello() const { return hello_; }

  /// What the other side answers; what else it tells meanwhile is left aside. Errors  those that it tells; Away,
  /// Malformed as MessageStream, with the bench's name
  [[nodiscard]] core::Result<FarJson> ask(const FarJson& ask, FarDeadline deadline = farDeadlineIn(60));
  /// The next thing that it tells by itself, while it follows a sheet. Errors as ask
  [[nodiscard]] core::Result<FarJson> next(FarDeadline deadline = kNoDeadline);
  /// Does it tell something until the deadline?
  [[nodiscard]] bool hasNext(FarDeadline deadline) { return stream_->hasMore(deadline); }
  /// Asks without waiting; what is told because of it has the number that this gives.
  [[nodiscard]] core::Result<std::int64_t> send(FarJson ask);

  /// The two clocks, by the fastest of a few questions there and back. Errors as ask
  [[nodiscard]] core::Result<core::ClockDifference> compareClocks();

 private:
  explicit SshLink(std::string name) : name_(std::move(name)) {}
  core::Status start(const To& to);
  core::Status greet();
  [[nodiscard]] core::Error explained(const core::Error& error);
  [[nodiscard]] std::string said() const;

  std::string name_;
  FarHello hello_;
  pid_t ssh_ = 0;
  int socket_ = -1;
  std::int64_t asks_ = 0;
  int words_ = -1;  ///< what ssh writes beside the messages
  std::unique_ptr<MessageStream> stream_;
  std::optional<std::stop_callback<std::function<void()>>> end_;  ///< the first to go
};

/// Why ssh could not, by its exit code and its words.
[[nodiscard]] core::Error sshError(const std::string& name, int exit_code, const std::string& said);

}  // namespace session
