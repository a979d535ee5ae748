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

RecordedFrame frameAt(std::span<const std::byte> bytes, std::size_t begin) {
  RecordedFrame frame;
  frame.handed_over = at<std::int64_t>(bytes, begin + offsetof(FrameRecord, handed_over));
  frame.returned = at<std::int64_t>(bytes, begin + offsetof(FrameRecord, returned));
  frame.thread_time = at<std::int64_t>(bytes, begin + offsetof(FrameRecord, thread_time));
  frame.process_time = at<std::int64_t>(bytes, begin + offsetof(FrameRecord, process_time));
  frame.shown = at<std::int64_t>(bytes, begin + offsetof(FrameRecord, shown));
  frame.device_time = at<std::int64_t>(bytes, begin + offsetof(FrameRecord, device_time));
  frame.submissions = at<std::uint32_t>(bytes, begin + offsetof(FrameRecord, submissions));
  frame.begins_surface = at<std::uint32_t>(bytes, begin + offsetof(FrameRecord, begins_surface)) != 0;
  frame.refresh = at<std::uint64_t>(bytes, begin + offsetof(FrameRecord, refresh));
  return frame;
}

Error broken(const char* what) {
  return {ErrorKind::Malformed, what, "the recorded program's frames", "Run the pass again"};
}

}  // namespace

core::Result<RingContent> parseRing(std::span<const std::byte> bytes, std::uint64_t from) {
  if (bytes.size() < sizeof(RingHeader) || at<std::uint64_t>(bytes, offsetof(RingHeader, magic)) != RingHeader::kMagic)
    return broken("this is not a ring of frame times");
  const auto capacity = at<std::uint32_t>(bytes, offsetof(RingHeader, capacity));
  if (at<std::uint32_t>(bytes, offsetof(RingHeader, header_bytes)) != sizeof(RingHeader) || capacity == 0 ||
      bytes.size() != sizeof(RingHeader) + std::size_t{capacity} * sizeof(FrameRecord))
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
  content.process = at<std::uint32_t>(bytes, offsetof(RingHeader, process));
  content.x_display = textAt(bytes, offsetof(RingHeader, display), sizeof RingHeader::display);
  content.x_window = at<std::uint64_t>(bytes, offsetof(RingHeader, window));
  const std::uint64_t oldest = content.written > capacity ? content.written - capacity : 0;
  content.first = std::max(from, oldest);
  for (std::uint64_t i = content.first; i < content.written; ++i) {
    const RecordedFrame frame = frameAt(bytes, sizeof(RingHeader) + i % capacity * sizeof(FrameRecord));
    if (frame.handed_over < 0 || frame.returned < frame.handed_over ||
        (!content.frames.empty() && frame.handed_over < content.frames.back().handed_over))
      return broken("the frame times run backwards");
    content.frames.push_back(frame);
  }
  return content;
}

}  // namespace recorder
