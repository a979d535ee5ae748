#include "cli/commands/terminal_program.h"

#include <fcntl.h>
#include <signal.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <cstring>

#include "bench/process_tree.h"

namespace cli {
namespace {

std::vector<char*> pointers(std::vector<std::string>& texts) {
  std::vector<char*> all;
  for (std::string& text : texts) all.push_back(text.data());
  all.push_back(nullptr);
  return all;
}

std::vector<std::string> environmentWith(const std::vector<std::pair<std::string, std::string>>& added) {
  std::vector<std::string> all;
  for (char** one = environ; *one != nullptr; ++one) {
    const std::string text = *one;
    const bool is_replaced = std::any_of(added.begin(), added.end(),
                                         [&](const auto& variable) { return text.starts_with(variable.first + "="); });
    if (!is_replaced) all.push_back(text);
  }
  for (const auto& [name, value] : added) all.push_back(name + "=" + value);
  return all;
}

}  // namespace

core::Result<TerminalProgram> TerminalProgram::start(const core::Command& command,
                                                     const std::vector<std::pair<std::string, std::string>>& added,
                                                     bool is_quiet) {
  bench::adoptOrphans();
  posix_spawn_file_actions_t files;
  posix_spawn_file_actions_init(&files);
  if (is_quiet)
    for (const int output : {STDOUT_FILENO, STDERR_FILENO})
      posix_spawn_file_actions_addopen(&files, output, "/dev/null", O_WRONLY, 0);
  posix_spawnattr_t how;
  posix_spawnattr_init(&how);
  sigset_t none;  // what we take as a readable descriptor, a program takes as it is used to
  sigemptyset(&none);
  posix_spawnattr_setsigmask(&how, &none);
  sigset_t defaults;  // we ignore a pipe that nobody reads; a pipeline's first program is to end by it
  sigemptyset(&defaults);
  sigaddset(&defaults, SIGPIPE);
  posix_spawnattr_setsigdefault(&how, &defaults);
  posix_spawnattr_setflags(&how, POSIX_SPAWN_SETSIGMASK | POSIX_SPAWN_SETSIGDEF);
  std::vector<std::string> words = command;
  std::vector<std::string> environment = environmentWith(added);
  pid_t process = 0;
  const int code = ::posix_spawnp(&process, command.front().c_str(), &files, &how, pointers(words).data(),
                                  pointers(environment).data());
  posix_spawnattr_destroy(&how);
  posix_spawn_file_actions_destroy(&files);
  if (code != 0)
    return core::Error{core::ErrorKind::CommandFailed,
                       std::string("the program could not be started: ") + std::strerror(code), command.front(),
                       "Correct the command, or install the program"};
  return TerminalProgram(process);
}

bool TerminalProgram::isOver() {
  int status = 0;
  pid_t ended = 0;
  while ((ended = ::waitpid(-1, &status, WNOHANG)) > 0)
    if (ended == process_) status_ = status;
  return ended < 0;
}

void TerminalProgram::signal(int number) const {
  for (const pid_t process : bench::descendants()) ::kill(process, number);
}

bench::CommandOutcome TerminalProgram::outcome() const {
  bench::CommandOutcome outcome;
  if (WIFSIGNALED(status_)) {
    outcome.ending = bench::Ending::Crashed;
    outcome.signal_number = WTERMSIG(status_);
  } else {
    outcome.exit_code = WEXITSTATUS(status_);
  }
  return outcome;
}

}  // namespace cli
