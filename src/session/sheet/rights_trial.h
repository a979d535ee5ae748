#pragma once

#include <optional>
#include <vector>

#include "session/sheet/trial.h"

namespace session {

/// Finds by trials what rights a case can do without: one as it was approved, then with as few as can be, then with
/// more, never with more than were approved.
class RightsTrial final : public QObject {
  Q_OBJECT
 public:
  struct Tried {
    core::Without without;
    std::optional<double> value;  ///< nothing where the pass failed
    std::string failure;
  };
  /// `bench` outlives it.
  explicit RightsTrial(bench::BenchConnection& bench);

  /// `finished` follows. As Trial::start
  void start(const core::Case& a_case, const std::string& folder, const core::Study& study);
  void stop();
  /// In the order of the trials; the first kept what the case keeps.
  [[nodiscard]] const std::vector<Tried>& tried() const { return tried_; }
  /// Without what more the case yields a result; nothing where it needs all that it keeps, or yields none so either.
  [[nodiscard]] std::optional<Tried> proposed() const;

 Q_SIGNALS:
  void finished();

 private:
  void next();
  Trial trial_;
  core::Case a_case_;
  std::string folder_;
  core::Study study_;
  std::vector<core::Without> order_;
  std::vector<Tried> tried_;
  bool is_stopped_ = false;
};

}  // namespace session
