#pragma once

#include <functional>
#include <memory>

#include <signal.h>
#include <QSocketNotifier>

namespace cli {

/// While it lives, Ctrl+C, a hangup and a request to end arrive in the event loop, so that what is in hand is ended in
/// the open.
class StopSignals {
 public:
  /// `is_of_terminal`: the terminal has sent it to everything that runs in it, not to us alone.
  using Heard = std::function<void(int signal_number, bool is_of_terminal)>;
  explicit StopSignals(Heard heard);
  ~StopSignals();
  StopSignals(const StopSignals&) = delete;
  StopSignals& operator=(const StopSignals&) = delete;

 private:
  sigset_t before_{};
  int descriptor_;
  std::unique_ptr<QSocketNotifier> notifier_;
};

}  // namespace cli
