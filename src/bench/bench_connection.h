#pragma once

#include <sys/types.h>
#include <QObject>

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "core/study/study.h"
#include "core/values/result.h"

namespace bench {

/// How a command ended. `Ended`: it was asked to end, since its work was done.
enum class Ending { Exited, Crashed, TimedOut, Stopped, NotStarted, Ended };

/// What a command did.
struct CommandOutcome {
  Ending ending = Ending::Exited;
  int exit_code = 0;            ///< for Exited
  int signal_number = 0;        ///< for Crashed
  std::string what;             ///< for NotStarted: why
  std::int64_t started_ms = 0;  ///< UTC, milliseconds since 1970
  double duration_s = 0;
  double processor_s = 0;  ///< processor time that it and what it started used
  std::string output;      ///< standard output; the middle of very long output is left out and says so
  std::string error_output;
};

/// A command with the place and the time that it is given.
struct CommandOrder {
  core::ExactCommand exact;
  std::string folder;  ///< working folder
  double time_limit_s = 600;
  bool waits_for_all = false;  ///< it ends when all that it started has ended: launchers leave before their program
  std::string scratch = {};    ///< ours: it stays visible to a command that does without the shared temporary folder
};

/// A command on its way. Emits `finished` exactly once, never from within the call that started or stopped it.
class RunningCommand : public QObject {
  Q_OBJECT
 public:
  /// Ends the command and everything that it started; `finished` follows with Ending::Stopped.
  virtual void stop() = 0;
  /// Asks it to end, and ends it if it does not within three seconds; `finished` follows with Ending::Ended.
  virtual void askToEnd() = 0;
  /// Its process and all that it started and that still run; none where nobody knows them.
  [[nodiscard]] virtual std::vector<pid_t> processes() const { return {}; }
  /// Processor time that it and what it started have used so far, in seconds; 0 where nobody counts.
  [[nodiscard]] virtual double processorSeconds() const { return 0; }

 Q_SIGNALS:
  void finished(const bench::CommandOutcome& outcome);
};

/// One bench as the program sees it. Everything that the machine says comes through here, so that a test can hand in a
/// folder in its place.
class BenchConnection {
 public:
  virtual ~BenchConnection() = default;

  /// The text of a file on the bench, such as "/proc/sys/kernel/random/boot_id".
  /// Errors  Missing: this machine does not offer it; Denied: it needs more rights; Busy: it is there but cannot be
  /// read now
  [[nodiscard]] virtual core::Result<std::string> readFile(const std::string& path) const = 0;

  /// The names in a folder, in order. Errors as readFile
  [[nodiscard]] virtual core::Result<std::vector<std::string>> listFolder(const std::string& path) const = 0;

  /// Where a path leads once every link in it is followed. Errors as readFile
  [[nodiscard]] virtual core::Result<std::string> realPath(const std::string& path) const = 0;

  /// Writes a setting's text into one of the kernel's files.
  /// Errors  Missing, Busy as readFile; Denied: it needs root; OutOfRange: the kernel refuses the text
  virtual core::Status writeFile(const std::string& path, const std::string& text) = 0;

  /// Where a program is found on the bench. Errors  Missing{program}
  [[nodiscard]] virtual core::Result<std::string> findProgram(const std::string& name,
                                                              const std::string& folder) const = 0;

  /// Starts a command. Its process group dies with this program, so that no workload outlives a killed session and
  /// disturbs the next one.
  [[nodiscard]] virtual std::unique_ptr<RunningCommand> start(const CommandOrder& order) = 0;
};

/// Identifies the boot that is running; empty where it cannot be read.
[[nodiscard]] std::string bootId(const BenchConnection& connection);

}  // namespace bench
