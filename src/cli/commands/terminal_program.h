#pragma once

#include <string>
#include <utility>
#include <vector>

#include "bench/bench_connection.h"
#include "core/study/study.h"
#include "core/values/result.h"

namespace cli {

/// A program that has this terminal to itself, as if it had been started there: its input and outputs, its PATH, and
/// what is typed.
class TerminalProgram {
 public:
  /// `added` comes on top of our own environment. `is_quiet`: its outputs go nowhere.
  /// Errors  CommandFailed{program}: it cannot be started
  static core::Result<TerminalProgram> start(const core::Command& command,
                                             const std::vector<std::pair<std::string, std::string>>& added,
                                             bool is_quiet);
  /// Has everything that it started ended, too?
  [[nodiscard]] bool isOver();
  /// Sends a signal to it and to all that it started.
  void signal(int number) const;
  /// How the program itself ended; once it is over.
  [[nodiscard]] bench::CommandOutcome outcome() const;

 private:
  explicit TerminalProgram(pid_t process) : process_(process) {}
  pid_t process_;
  int status_ = 0;
};

}  // namespace cli
