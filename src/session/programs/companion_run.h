#pragma once

#include <QObject>
#include <QTimer>
#include <functional>
#include <optional>
#include <string>

#include "bench/bench_connection.h"
#include "session/programs/launcher.h"

namespace session {

/// What runs beside a pass: started before it, ended after it. One that ends by itself before that spoils the pass.
class CompanionRun final : public QObject {
  Q_OBJECT
 public:
  /// `bench` outlives it.
  explicit CompanionRun(bench::BenchConnection& bench) : launcher_(bench) {
    head_start_.setSingleShot(true);
    head_start_.setTimerType(Qt::PreciseTimer);
  }

  /// Where it finds what is its own while it runs.
  void setScratch(std::string folder) { launcher_.setScratch(std::move(folder)); }
  /// Starts that of a case, which has one, as at that configuration; `ready` once it has its head start. `died`
  /// instead, or later, where it ends by itself. `folder`: where its passes are started
  void start(const core::Case& a_case, const core::Setup& setup, const std::string& folder, std::function<void()> ready,
             std::function<void()> died);
  /// Ends it, where it runs; `then` when nothing of it is in use any more.
  void end(std::function<void()> then);

  /// What the last one left: nothing of it belongs to a pass that has none.
  void forget() { outcome_.reset(); }
  /// Does the pass still wait for it?
  [[nodiscard]] bool isStarting() const { return head_start_.isActive(); }
  /// Why the pass is spoiled, as a failure says it; nothing of one that ran until it was ended. `where`: the case.
  [[nodiscard]] std::optional<core::Error> spoiled(const std::string& where) const;
  /// All that it printed, once it has ended: standard output, then standard error.
  [[nodiscard]] std::string log() const;
  /// Processor time that it has used so far, in seconds.
  [[nodiscard]] double processorSeconds() const { return launcher_.processorSeconds(); }

 private:
  void ended(const bench::CommandOutcome& outcome);
  Launcher launcher_;
  QTimer head_start_;
  bool is_running_ = false;
  std::optional<bench::CommandOutcome> outcome_;
  std::function<void()> died_;
  std::function<void()> then_;  ///< once it was asked to end
};

}  // namespace session
