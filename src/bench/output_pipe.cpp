#include "bench/output_pipe.h"

#include <fcntl.h>
#include <unistd.h>

#include <array>

namespace bench {

OutputPipe::OutputPipe(std::function<void(const char*, std::size_t)> taken) : taken_(std::move(taken)) {
  if (::pipe2(ends_, O_CLOEXEC) != 0) return;
  ::fcntl(ends_[0], F_SETFL, O_NONBLOCK);
  notifier_ = std::make_unique<QSocketNotifier>(ends_[0], QSocketNotifier::Read);
  QObject::connect(notifier_.get(), &QSocketNotifier::activated, notifier_.get(), [this] { drain(); });
}

OutputPipe::~OutputPipe() {
  notifier_.reset();
  closeWriteEnd();
  if (ends_[0] >= 0) ::close(ends_[0]);
}

void OutputPipe::closeWriteEnd() {
  if (ends_[1] >= 0) ::close(ends_[1]);
  ends_[1] = -1;
}

void OutputPipe::drain() {
  std::array<char, 65536> block;
  ssize_t got = 0;
  while ((got = ::read(ends_[0], block.data(), block.size())) > 0) taken_(block.data(), static_cast<std::size_t>(got));
  if (got == 0 && notifier_) notifier_->setEnabled(false);  // nobody writes any more
}

}  // namespace bench
