#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <functional>
#include <optional>
#include <string>

#include "bench/processor_time.h"
#include "core/study/study.h"

namespace session {

/// Waits until a bench is at rest: for a time, for a temperature, or until other programs keep still.
class BenchRest final : public QObject {
  Q_OBJECT
 public:
  using Then = std::function<void(const std::string& remark)>;

  /// After a flip: the plan's time, and until the hottest part is cool enough, as long as the plan allows. `then` gets
  /// a sentence where it did not cool down; else an empty text.
  void settle(const bench::BenchConnection& bench, const core::Plan& plan, Then then);
  /// Before a pass: until other programs keep still for a second, as long as the plan allows.
  void untilQuiet(const bench::BenchConnection& bench, const core::Plan& plan, Then then);
  void stop();
  [[nodiscard]] bool isWaiting() const { return timer_.isActive(); }
  /// Until it surely ends; with a temperature it may end earlier.
  [[nodiscard]] double secondsLeft() const;

 private:
  void begin(const bench::BenchConnection& bench, double least_s, double most_s, Then then);
  void look();
  void end(const std::string& remark);
  [[nodiscard]] bool isCool() const;
  [[nodiscard]] bool isQuiet();

  QTimer timer_;
  QElapsedTimer clock_;
  const bench::BenchConnection* bench_ = nullptr;
  Then then_;
  double least_s_ = 0;
  double most_s_ = 0;
  std::optional<double> wanted_c_;
  bool wants_quiet_ = false;
  std::optional<bench::ProcessorTime> before_;
};

}  // namespace session
