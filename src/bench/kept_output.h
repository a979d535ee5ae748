#pragma once

#include <algorithm>
#include <string>

namespace bench {

/// Keeps what a command prints, with a bound: of very long output the beginning and the end.
class KeptOutput {
 public:
  static constexpr std::size_t kHalf = 512 * 1024;

  void append(const std::string& text) {
    tail_ += text;
    if (head_.size() < kHalf) {
      const std::size_t moved = std::min(kHalf - head_.size(), tail_.size());
      head_ += tail_.substr(0, moved);
      tail_.erase(0, moved);
    }
    if (tail_.size() > 2 * kHalf) {
      left_out_ += tail_.size() - kHalf;
      tail_.erase(0, tail_.size() - kHalf);
    }
  }

  [[nodiscard]] std::string text() const {
    if (left_out_ == 0) return head_ + tail_;
    return head_ + "\n[" + std::to_string(left_out_) + " bytes left out]\n" + tail_;
  }

 private:
  std::string head_;
  std::string tail_;
  std::size_t left_out_ = 0;
};

}  // namespace bench
