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
    // No character is cut (UTF-8): what is left of one at either edge goes with the middle.
    const std::size_t head = wholeEnd(head_);
    const std::size_t tail = std::min<std::size_t>(tail_.size(), 3);
    std::size_t begin = 0;
    while (begin < tail && isInside(tail_[begin])) ++begin;
    return head_.substr(0, head) + "\n[" + std::to_string(left_out_ + begin + head_.size() - head) +
           " bytes left out]\n" + tail_.substr(begin);
  }

 private:
  static bool isInside(char c) { return (static_cast<unsigned char>(c) & 0xC0U) == 0x80U; }
  // Where the last character that is whole ends.
  static std::size_t wholeEnd(const std::string& text) {
    std::size_t last = text.size();
    while (last > 0 && text.size() - last < 3 && isInside(text[last - 1])) --last;
    if (last == 0) return text.size();
    const auto first = static_cast<unsigned char>(text[last - 1]);
    const std::size_t needed = first >= 0xF0 ? 4 : first >= 0xE0 ? 3 : first >= 0xC0 ? 2 : 1;
    return text.size() - last + 1 < needed ? last - 1 : text.size();
  }

  std::string head_;
  std::string tail_;
  std::size_t left_out_ = 0;
};

}  // namespace bench
