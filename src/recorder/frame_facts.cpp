#include "recorder/frame_facts.h"

#include <algorithm>
#include <vector>

#include "recorder/ring_layout.h"

namespace recorder {
namespace {

constexpr double kNsPerMs = 1e6;
constexpr double kNsPerS = 1e9;

double middle(std::vector<double> values) {
  if (values.empty()) return 0;
  const auto at = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
  std::nth_element(values.begin(), at, values.end());
  return *at;
}

// Processor time a frame, from one frame of which it was noted to the next such; nothing where it was not.
std::optional<double> processorMs(std::span<const RecordedFrame> frames, std::int64_t RecordedFrame::*time) {
  std::vector<double> ms;
  const RecordedFrame* before = nullptr;
  for (const RecordedFrame& frame : frames) {
    if (frame.*time <= 0) continue;
    if (before != nullptr && frame.*time >= before->*time)
      ms.push_back(static_cast<double>(frame.*time - before->*time) / kNsPerMs / static_cast<double>(&frame - before));
    before = &frame;
  }
  if (ms.empty()) return std::nullopt;
  return middle(std::move(ms));
}

std::optional<ShownFacts> shownFacts(std::span<const RecordedFrame> frames) {
  ShownFacts facts;
  std::vector<RecordedFrame> shown;
  for (const RecordedFrame& frame : frames) {
    if (frame.shown == FrameRecord::kNotKnown) continue;
    ++facts.known;
    if (frame.shown == FrameRecord::kNeverShown)
      ++facts.skipped;
    else
      shown.push_back(frame);
  }
  if (facts.known == 0) return std::nullopt;
  facts.shown = shown.size();
  if (shown.size() < 2) return facts;
  const auto span = static_cast<double>(shown.back().shown - shown.front().shown);
  if (span > 0) facts.fps = static_cast<double>(shown.size() - 1) * kNsPerS / span;
  const std::uint64_t first = shown.front().refresh;
  const std::uint64_t last = shown.back().refresh;
  if (first == 0 || last <= first) return facts;
  facts.refresh_ms = span / static_cast<double>(last - first) / kNsPerMs;
  std::size_t repeated = 0;
  for (std::size_t i = 1; i < shown.size(); ++i)
    if (shown[i].refresh > shown[i - 1].refresh + 1) repeated += shown[i].refresh - shown[i - 1].refresh - 1;
  facts.repeated = repeated;
  return facts;
}

}  // namespace

std::vector<bool> possiblyGenerated(std::span<const RecordedFrame> frames) {
  std::vector<bool> generated;
  for (const RecordedFrame& frame : frames) generated.push_back(frame.submissions == 0);
  // Where no frame brings any, work is handed over in a way that is not seen.
  if (std::find(generated.begin(), generated.end(), false) == generated.end()) generated.assign(frames.size(), false);
  return generated;
}

FrameFacts factsOf(std::span<const RecordedFrame> frames) {
  FrameFacts facts;
  facts.shown = shownFacts(frames);
  facts.thread_ms = processorMs(frames, &RecordedFrame::thread_time);
  facts.program_ms = processorMs(frames, &RecordedFrame::process_time);
  std::vector<double> waited;
  std::vector<double> device;
  for (const RecordedFrame& frame : frames) {
    waited.push_back(static_cast<double>(frame.returned - frame.handed_over) / kNsPerMs);
    if (frame.device_time > 0) device.push_back(static_cast<double>(frame.device_time) / kNsPerMs);
  }
  if (!device.empty()) facts.device_ms = middle(std::move(device));
  facts.waited_ms = middle(std::move(waited));
  const std::vector<bool> generated = possiblyGenerated(frames);
  facts.possibly_generated = static_cast<std::size_t>(std::count(generated.begin(), generated.end(), true));
  return facts;
}

}  // namespace recorder
