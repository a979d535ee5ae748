#pragma once

#include <optional>
#include <vector>

#include "session/sheet/trial.h"

namespace session {

/// Finds by trials what rights a case can do without: one with all of them, then with as few as can be, then with more.
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
  /// In the order of the trials; the first kept all rights.
  [[nodiscard]] const std::vector<Tried>& tried() const { return tried_; }
  /// Without what the case yields a result; nothing where it needs all rights, or yields none with them either.
  [[nodiscard]] std::optional<Tried> proposed() const;

 Q_SIGNALS:
  void finished();

 private:
  void next();
  Trial trial_;
  core::Case a_case_;
  std::string folder_;
  core::Study study_;
  std::vector<Tried> tried_;
  bool is_stopped_ = false;
};

}  // namespace session
