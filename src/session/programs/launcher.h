#pragma once

#include <QObject>
#include <functional>
#include <memory>

#include "bench/bench_connection.h"

namespace session {

/// Starts one command after the other: a sheet runs one at a time.
class Launcher final : public QObject {
  Q_OBJECT
 public:
  /// `bench` outlives it.
  explicit Launcher(bench::BenchConnection& bench) : bench_(bench) {}

  /// Where a command finds what is its own while it runs.
  void setScratch(std::string folder) { scratch_ = std::move(folder); }
  /// `then` is told how it ended, when nothing of the command is in use any more.
  void launch(bench::CommandOrder order, std::function<void(const bench::CommandOutcome&)> then);
  /// Is a command on its way?
  [[nodiscard]] bool isRunning() const { return is_running_; }
  /// Of the command that runs; nothing happens where none does.
  void stop();
  void askToEnd();
  /// Of the command that runs; none where none does.
  [[nodiscard]] std::vector<pid_t> processes() const { return command_ ? command_->processes() : std::vector<pid_t>(); }
  /// Of the command that runs; 0 where none does.
  [[nodiscard]] double processorSeconds() const { return command_ ? command_->processorSeconds() : 0; }
  /// Ends it with nobody told.
  void drop() {
    command_.reset();
    is_running_ = false;
  }

 private:
  bench::BenchConnection& bench_;
  std::string scratch_;
  std::unique_ptr<bench::RunningCommand> command_;
  bool is_running_ = false;
};

}  // namespace session
