#pragma once

#include <QObject>
#include <QTemporaryDir>
#include <QTimer>
#include <memory>
#include <optional>

#include "bench/bench_connection.h"
#include "session/programs/companion_run.h"
#include "session/programs/launcher.h"
#include "session/programs/pass_result.h"

namespace session {

/// Runs one pass of a case here and now, as the machine stands, to see what it yields and how long it takes. Nothing of
/// it is filed, and nothing of the study is set.
class Trial final : public QObject {
  Q_OBJECT
 public:
  /// `bench` outlives it.
  explicit Trial(bench::BenchConnection& bench);

  [[nodiscard]] bool isRunning() const { return is_running_; }
  /// `finished` follows. Nothing happens while one runs. `folder`: where a pass of it would be started; `setup`: as at
  /// which configuration.
  /// Errors, as the pass's failure  as session::measurePass; a case that a person plays or types is none to be tried
  void start(const core::Case& a_case, const std::string& folder, std::vector<double> targets_fps, double time_limit_s,
             const core::Setup& setup = {});
  void stop();
  /// Of the case that is tried, or was tried last.
  [[nodiscard]] const core::Metric& metric() const { return a_case_.metric; }

 Q_SIGNALS:
  /// `seconds`: from its start to its end.
  void finished(const session::MeasuredPass& pass, double seconds);

 private:
  void begin(const core::Setup& setup);
  void end(const bench::CommandOutcome& outcome);
  [[nodiscard]] std::string logPath() const;
  Launcher launcher_;
  CompanionRun companion_;
  core::Case a_case_;
  std::string folder_;
  std::optional<ResultPlaces> places_;
  std::vector<double> targets_fps_{60};
  double time_limit_s_ = 600;
  bool is_running_ = false;
  std::unique_ptr<QTemporaryDir> logs_;  ///< its frame log
  std::unique_ptr<FrameRecorder> recorder_;
  QTimer looking_;
};

/// Can a case be tried: is there something that the program starts by itself, and that ends by itself?
[[nodiscard]] bool canBeTried(const core::Case& a_case);

}  // namespace session
