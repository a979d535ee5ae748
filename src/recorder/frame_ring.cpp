#include "recorder/frame_ring.h"

#include <algorithm>
#include <cstring>

#include "recorder/ring_layout.h"

namespace recorder {
namespace {

using core::Error;
using core::ErrorKind;

template <class T>
T at(std::span<const std::byte> bytes, std::size_t offset) {
  T value;
  std::memcpy(&value, bytes.data() + offset, sizeof value);
  return value;
}

// Up to its first zero; what is no printable text is shown as '?'.
std::string textAt(std::span<const std::byte> bytes, std::size_t offset, std::size_t size) {
  std::string text;
  for (std::size_t i = 0; i < size; ++i) {
    const auto c = static_cast<char>(bytes[offset + i]);
    if (c == '\0') break;
    text += c >= ' ' && c <= '~' ? c : '?';
  }
  return text;
}

Error broken(const char* what) {
  return {ErrorKind::Malformed, what, "the recorded program's frames", "Run the pass again"};
}

}  // namespace

core::Result<RingContent> parseRing(std::span<const std::byte> bytes, std::uint64_t from) {
  if (bytes.size() < sizeof(RingHeader) || at<std::uint64_t>(bytes, offsetof(RingHeader, magic)) != RingHeader::kMagic)
    return broken("this is no ring of frame times");
  const auto capacity = at<std::uint32_t>(bytes, offsetof(RingHeader, capacity));
  if (at<std::uint32_t>(bytes, offsetof(RingHeader, header_bytes)) != sizeof(RingHeader) || capacity == 0 ||
      bytes.size() != sizeof(RingHeader) + std::size_t{capacity} * sizeof(std::uint64_t))
    return broken("the ring of frame times is of another version, or cut off");
  RingContent content;
  content.written = at<std::uint64_t>(bytes, offsetof(RingHeader, written));
  if (content.written < from) return broken("the ring of frame times began anew");
  constexpr std::uint32_t kWidest = 1U << 16;
  content.presenter.width = static_cast<int>(std::min(kWidest, at<std::uint32_t>(bytes, offsetof(RingHeader, width))));
  content.presenter.height =
      static_cast<int>(std::min(kWidest, at<std::uint32_t>(bytes, offsetof(RingHeader, height))));
  content.presenter.interface = textAt(bytes, offsetof(RingHeader, interface), sizeof RingHeader::interface);
  content.presenter.present_mode = textAt(bytes, offsetof(RingHeader, present_mode), sizeof RingHeader::present_mode);
  content.presenter.device = textAt(bytes, offsetof(RingHeader, device), sizeof RingHeader::device);
  content.presenter.program = textAt(bytes, offsetof(RingHeader, program), sizeof RingHeader::program);
  const std::uint64_t oldest = content.written > capacity ? content.written - capacity : 0;
  content.lost = oldest > from ? oldest - from : 0;
  for (std::uint64_t i = std::max(from, oldest); i < content.written; ++i) {
    const auto ns = at<std::int64_t>(bytes, sizeof(RingHeader) + i % capacity * sizeof(std::uint64_t));
    if (ns < 0 || (!content.at_ns.empty() && ns < content.at_ns.back())) return broken("the frame times run backwards");
    content.at_ns.push_back(ns);
  }
  return content;
}

}  // namespace recorder
