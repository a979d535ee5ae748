#pragma once

#include <QElapsedTimer>
#include <QProcess>
#include <QTimer>

#include "bench/bench_connection.h"
#include "bench/confined.h"
#include "bench/kept_output.h"
#include "bench/output_pipe.h"
#include "bench/process_tree.h"

namespace bench {

/// A command as a real process, in a process group of its own.
class ProcessCommand final : public RunningCommand {
  Q_OBJECT
 public:
  ProcessCommand(const CommandOrder& order, const BenchConnection& connection, const QString& own_folder);
  ~ProcessCommand() override;
  void stop() override;
  void askToEnd() override;
  [[nodiscard]] std::vector<pid_t> processes() const override;
  [[nodiscard]] double processorSeconds() const override { return tree_.processorSeconds(); }

 private:
  void startProcess(const CommandOrder& order, const QString& program, const QString& own_folder);
  void collect();
  void outlive(Ending ending);
  void killGroup();
  void endLeftovers();
  void conclude(Ending ending);

  QProcess process_;
  QTimer limit_;
  QTimer patience_;                       ///< since it was asked to end
  QTimer outliving_;                      ///< it has ended; what it started has not
  std::unique_ptr<OutputPipe> out_pipe_;  ///< where its outputs may outlive it
  std::unique_ptr<OutputPipe> error_pipe_;
  std::optional<Confined> confined_;  ///< with what is its own until it is over
  QElapsedTimer clock_;
  KeptOutput output_;
  KeptOutput error_output_;
  CommandOutcome outcome_;
  ProcessTree tree_;  ///< its leader leads the process group
  bool is_stopped_ = false;
  bool is_timed_out_ = false;
  bool is_asked_to_end_ = false;
  double children_s_ = 0;  ///< processor time of all ended children before this one started
  bool is_concluded_ = false;
};

}  // namespace bench
