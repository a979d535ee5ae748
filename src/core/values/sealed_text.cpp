#include "core/values/sealed_text.h"

#include <cstdint>

namespace core {
namespace {

constexpr std::string_view kHexDigits = "0123456789abcdef";

// Every text begins otherwise, so that no two that begin alike look alike: the first eight bytes are a sum of it.
std::uint64_t sumOf(std::string_view text) {
  std::uint64_t sum = 0xCBF29CE484222325;  // FNV-1a
  for (const char c : text) sum = (sum ^ static_cast<unsigned char>(c)) * 0x100000001B3;
  return sum;
}

/// Bytes that follow from a number (splitmix64).
class Stream {
 public:
  explicit Stream(std::uint64_t from) : state_(from) {}
  unsigned char next() {
    if (left_ == 0) {
      state_ += 0x9E3779B97F4A7C15;
      std::uint64_t x = state_;
      x = (x ^ (x >> 30)) * 0xBF58476D1CE4E5B9;
      x = (x ^ (x >> 27)) * 0x94D049BB133111EB;
      bytes_ = x ^ (x >> 31);
      left_ = 8;
    }
    --left_;
    const auto byte = static_cast<unsigned char>(bytes_ & 0xFF);
    bytes_ >>= 8;
    return byte;
  }

 private:
  std::uint64_t state_;
  std::uint64_t bytes_ = 0;
  int left_ = 0;
};

std::string digitsOf(std::string_view bytes) {
  std::string digits;
  for (const char c : bytes) {
    const auto byte = static_cast<unsigned char>(c);
    digits += kHexDigits[byte >> 4];
    digits += kHexDigits[byte & 0xF];
  }
  return digits;
}

std::string mixedWith(std::uint64_t sum, std::string_view text) {
  Stream stream(sum);
  std::string mixed;
  for (const char c : text) mixed += static_cast<char>(static_cast<unsigned char>(c) ^ stream.next());
  return mixed;
}

constexpr std::size_t kSumBytes = 8;

}  // namespace

std::string sealedText(std::string_view text) {
  const std::uint64_t sum = sumOf(text);
  std::string head;
  for (std::size_t i = 0; i < kSumBytes; ++i) head += static_cast<char>(sum >> (8 * i) & 0xFF);
  return digitsOf(head + mixedWith(sum, text));
}

std::optional<std::string> unsealedText(std::string_view sealed) {
  if (sealed.size() % 2 != 0 || sealed.size() < 2 * kSumBytes) return std::nullopt;
  std::string bytes;
  for (std::size_t i = 0; i < sealed.size(); i += 2) {
    const auto high = kHexDigits.find(sealed[i]);
    const auto low = kHexDigits.find(sealed[i + 1]);
    if (high == std::string_view::npos || low == std::string_view::npos) return std::nullopt;
    bytes += static_cast<char>(high << 4 | low);
  }
  std::uint64_t sum = 0;
  for (std::size_t i = 0; i < kSumBytes; ++i) sum |= std::uint64_t{static_cast<unsigned char>(bytes[i])} << (8 * i);
  std::string text = mixedWith(sum, std::string_view(bytes).substr(kSumBytes));
  if (sumOf(text) != sum) return std::nullopt;
  return text;
}

}  // namespace core
