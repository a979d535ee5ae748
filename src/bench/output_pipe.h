#pragma once

#include <QSocketNotifier>
#include <functional>
#include <memory>

namespace bench {

/// A pipe for what processes print, which stays open when the first of them has ended: whoever it has started may go on
/// printing.
class OutputPipe {
 public:
  /// `taken` gets the bytes as they come.
  explicit OutputPipe(std::function<void(const char* bytes, std::size_t size)> taken);
  ~OutputPipe();
  OutputPipe(const OutputPipe&) = delete;
  OutputPipe& operator=(const OutputPipe&) = delete;

  /// The end that the processes write to; for the child, which makes it its output.
  [[nodiscard]] int writeEnd() const { return ends_[1]; }
  /// The child is there: from now on only processes write.
  void closeWriteEnd();
  /// Takes what is there now.
  void drain();

 private:
  std::function<void(const char*, std::size_t)> taken_;
  int ends_[2] = {-1, -1};
  std::unique_ptr<QSocketNotifier> notifier_;
};

}  // namespace bench
