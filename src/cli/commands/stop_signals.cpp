#include "cli/commands/stop_signals.h"

#include <sys/signalfd.h>
#include <unistd.h>

namespace cli {

StopSignals::StopSignals(Heard heard) {
  sigset_t stopping;
  sigemptyset(&stopping);
  for (const int number : {SIGINT, SIGTERM, SIGHUP}) sigaddset(&stopping, number);
  ::pthread_sigmask(SIG_BLOCK, &stopping, &before_);
  descriptor_ = ::signalfd(-1, &stopping, SFD_CLOEXEC | SFD_NONBLOCK);
  notifier_ = std::make_unique<QSocketNotifier>(descriptor_, QSocketNotifier::Read);
  QObject::connect(notifier_.get(), &QSocketNotifier::activated, notifier_.get(), [this, heard = std::move(heard)] {
    signalfd_siginfo info{};
    if (::read(descriptor_, &info, sizeof info) != static_cast<ssize_t>(sizeof info)) return;
    heard(static_cast<int>(info.ssi_signo), info.ssi_code == SI_KERNEL);
  });
}

StopSignals::~StopSignals() {
  notifier_.reset();
  ::close(descriptor_);
  ::pthread_sigmask(SIG_SETMASK, &before_, nullptr);
}

}  // namespace cli
