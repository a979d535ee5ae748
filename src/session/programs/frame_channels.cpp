#include "session/programs/frame_channels.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>
#include <span>

#include "core/findings/bound.h"
#include "recorder/frame_facts.h"

namespace session {
namespace {

using recorder::FrameFacts;

using Reading = std::optional<double> (*)(const FrameFacts&, std::size_t frames);

struct Kind {
  const char* name;
  const char* unit;
  Reading reading;
};

constexpr Kind kKinds[] = {
    {core::kThreadTime, "ms", [](const FrameFacts& facts, std::size_t) { return facts.thread_ms; }},
    {"program time a frame", "ms", [](const FrameFacts& facts, std::size_t) { return facts.program_ms; }},
    {core::kDeviceTime, "ms", [](const FrameFacts& facts, std::size_t) { return facts.device_ms; }},
    {core::kHandOverWait, "ms", [](const FrameFacts& facts, std::size_t) { return std::optional(facts.waited_ms); }},
    {"shown on the screen", "FPS",
     [](const FrameFacts& facts, std::size_t) {
       return facts.shown && facts.shown->fps > 0 ? std::optional(facts.shown->fps) : std::nullopt;
     }},
    {"possibly generated frames", "%",
     [](const FrameFacts& facts, std::size_t frames) {
       return facts.possibly_generated > 0
                  ? std::optional(100.0 * static_cast<double>(facts.possibly_generated) / static_cast<double>(frames))
                  : std::nullopt;
     }},
};

constexpr double kNsPerMs = 1e6;
constexpr double kNotKnown = std::numeric_limits<double>::quiet_NaN();

// Of another thread the clock may have gone less far: then nothing is known.
double msBetween(std::int64_t before, std::int64_t after) {
  return before > 0 && after >= before ? static_cast<double>(after - before) / kNsPerMs : kNotKnown;
}

/// What a frame says of itself, with the one before it.
using FrameReading = double (*)(const recorder::RecordedFrame& before, const recorder::RecordedFrame& frame);
struct FrameKind {
  const char* name;
  const char* unit;
  FrameReading reading;
};
constexpr FrameKind kFrameKinds[] = {
    {core::kThreadTime, "ms",
     [](const auto& before, const auto& frame) { return msBetween(before.thread_time, frame.thread_time); }},
    {core::kDeviceTime, "ms",
     [](const auto&, const auto& frame) {
       return frame.device_time > 0 ? static_cast<double>(frame.device_time) / kNsPerMs : kNotKnown;
     }},
    {core::kHandOverWait, "ms",
     [](const auto&, const auto& frame) { return msBetween(frame.handed_over, frame.returned); }},
    {"on the screen since the frame before", "ms",
     [](const auto& before, const auto& frame) { return msBetween(before.shown, frame.shown); }},
};

bool tellsAnything(const core::Channel& channel) {
  return std::any_of(channel.values.begin(), channel.values.end(),
                     [](double value) { return std::isfinite(value) && value != 0; });
}

std::vector<core::Channel> channelsByFrame(std::span<const recorder::RecordedFrame> frames) {
  std::vector<core::Channel> channels;
  for (const FrameKind& kind : kFrameKinds) {
    core::Channel channel{kind.name, kind.unit, core::ChannelRole::Frame, "frames", {}, {}};
    for (std::size_t i = 1; i < frames.size(); ++i) channel.values.push_back(kind.reading(frames[i - 1], frames[i]));
    if (tellsAnything(channel)) channels.push_back(std::move(channel));
  }
  const std::vector<bool> generated = recorder::possiblyGenerated(frames);
  core::Channel channel{"possibly generated", "0 or 1", core::ChannelRole::Frame, "frames", {}, {}};
  for (std::size_t i = 1; i < frames.size(); ++i) channel.values.push_back(generated[i] ? 1 : 0);
  if (tellsAnything(channel)) channels.push_back(std::move(channel));
  return channels;
}

}  // namespace

void addFrameChannels(core::Samples& samples, const std::vector<recorder::RecordedFrame>& frames,
                      std::int64_t began_ns) {
  constexpr double kNsPerS = 1e9;
  samples.by_frame = channelsByFrame(frames);
  std::vector<core::Channel> channels;
  for (const Kind& kind : kKinds)
    channels.push_back({kind.name, kind.unit, core::ChannelRole::Frame, "frames", {}, {}});
  auto begin = frames.begin();
  for (const double at_s : samples.at_s) {
    const auto until = began_ns + static_cast<std::int64_t>(at_s * kNsPerS);
    const auto end = std::find_if(begin, frames.end(), [&](const auto& frame) { return frame.handed_over > until; });
    const std::span<const recorder::RecordedFrame> since(begin, end);
    const FrameFacts facts = since.size() < 2 ? FrameFacts{} : recorder::factsOf(since);
    for (std::size_t i = 0; i < channels.size(); ++i) {
      const auto value = since.size() < 2 ? std::nullopt : kKinds[i].reading(facts, since.size());
      channels[i].values.push_back(value.value_or(std::numeric_limits<double>::quiet_NaN()));
    }
    begin = end;
  }
  for (core::Channel& channel : channels)
    if (std::any_of(channel.values.begin(), channel.values.end(), [](double value) { return std::isfinite(value); }))
      samples.channels.push_back(std::move(channel));
}

}  // namespace session
