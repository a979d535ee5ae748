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
  /// Of the command that runs; nothing happens where none does.
  void stop();
  void askToEnd();
  /// Ends it with nobody told.
  void drop() { command_.reset(); }

 private:
  bench::BenchConnection& bench_;
  std::string scratch_;
  std::unique_ptr<bench::RunningCommand> command_;
};

}  // namespace session
