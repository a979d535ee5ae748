#include "core/findings/bound.h"

#include <algorithm>
#include <cmath>
#include <map>

#include <fmt/format.h>

#include "core/values/median.h"

namespace core {
namespace {

constexpr double kGraphicsBusy = 95;
constexpr double kGraphicsIdle = 90;
constexpr double kCoreBusy = 90;
constexpr double kThreadBusy = 0.9;  // of the frame's time
constexpr double kFull = 0.97;
constexpr double kLowPower = 0.8;
constexpr double kClockFall = 0.95;

// The graphics device that worked most in a pass; the others may well be idle.
const ChannelSummary* busiestGraphics(const Pass& pass) {
  const ChannelSummary* busiest = nullptr;
  for (const ChannelSummary& channel : pass.samples)
    if (channel.role == ChannelRole::Load && channel.name == "graphics load" &&
        (!busiest || channel.median > busiest->median))
      busiest = &channel;
  return busiest;
}

const ChannelSummary* named(const Pass& pass, const std::string& name, const std::string& part = {}) {
  for (const ChannelSummary& channel : pass.samples)
    if (channel.name == name && (part.empty() || channel.part == part)) return &channel;
  return nullptr;
}

std::optional<double> powerOf(const Pass& pass) {
  std::optional<double> most;
  for (const ChannelSummary& channel : pass.samples)
    if (channel.role == ChannelRole::Power) most = std::max(most.value_or(0), channel.median);
  return most;
}

double frameMs(const Pass& pass) { return 1000 / pass.frames->average_fps; }

bool isClockFalling(const Pass& pass) {
  const bool gets_warmer = std::any_of(pass.samples.begin(), pass.samples.end(), [](const ChannelSummary& one) {
    return one.role == ChannelRole::Temperature && one.last_third > one.first_third;
  });
  return gets_warmer && std::any_of(pass.samples.begin(), pass.samples.end(), [](const ChannelSummary& one) {
           return one.role == ChannelRole::Clock && one.last_third < kClockFall * one.first_third;
         });
}

Bound boundOfPass(const Pass& pass, std::optional<double> best_power_w) {
  if (pass.frames && pass.frames->capped_fps > 0) return Bound::Capped;
  if (pass.samples.empty()) return Bound::NotKnown;
  if (pass.throttled.value_or(0) > 0 || isClockFalling(pass)) return Bound::PowerOrHeat;
  const ChannelSummary* graphics = busiestGraphics(pass);
  if (graphics) {
    const ChannelSummary* memory = named(pass, "graphics memory in use", graphics->part);
    if (memory && memory->limit && memory->median >= kFull * *memory->limit) return Bound::GraphicsMemory;
    if (graphics->median >= kGraphicsBusy) return Bound::Graphics;
  }
  const ChannelSummary* core = named(pass, "busiest core");
  if (core && core->median >= kCoreBusy) return Bound::Processor;
  const ChannelSummary* device = named(pass, kDeviceTime);
  if (device && pass.frames && device->median >= kThreadBusy * frameMs(pass)) return Bound::Graphics;
  const ChannelSummary* thread = named(pass, kThreadTime);
  if (thread && pass.frames && thread->median >= kThreadBusy * frameMs(pass)) return Bound::Processor;
  const auto power = powerOf(pass);
  const bool is_starved = graphics && graphics->median < kGraphicsIdle && core && power && best_power_w &&
                          *power < kLowPower * *best_power_w;
  return is_starved ? Bound::LinkSuspected : Bound::Undecided;
}

std::string evidenceOf(std::span<const CountedPass> passes) {
  std::vector<double> graphics;
  std::vector<double> core;
  std::vector<double> thread;
  std::vector<double> device;
  std::vector<double> wait;
  double cap = 0;
  for (const CountedPass& one : passes) {
    if (const auto* channel = busiestGraphics(*one.pass)) graphics.push_back(channel->median);
    if (const auto* channel = named(*one.pass, "busiest core")) core.push_back(channel->median);
    if (one.pass->frames) cap = std::max(cap, one.pass->frames->capped_fps);
    if (!one.pass->frames) continue;
    if (const auto* channel = named(*one.pass, kThreadTime))
      thread.push_back(100 * channel->median / frameMs(*one.pass));
    if (const auto* channel = named(*one.pass, kDeviceTime))
      device.push_back(100 * channel->median / frameMs(*one.pass));
    if (const auto* channel = named(*one.pass, kHandOverWait))
      wait.push_back(100 * channel->median / frameMs(*one.pass));
  }
  std::string text;
  const auto add = [&](const std::string& part) { text += (text.empty() ? "" : ", ") + part; };
  if (cap > 0) add(fmt::format("most frames last 1/{:g} s", cap));
  if (!graphics.empty()) add(fmt::format("graphics {:.0f} % busy", medianOf(graphics)));
  if (!core.empty()) add(fmt::format("busiest core {:.0f} %", medianOf(core)));
  if (!thread.empty()) add(fmt::format("its thread works {:.0f} % of a frame", medianOf(thread)));
  if (!device.empty()) add(fmt::format("the device works {:.0f} % of it", medianOf(device)));
  if (!wait.empty()) add(fmt::format("waits {:.0f} % of it at the hand-over", medianOf(wait)));
  return text;
}

}  // namespace

const char* boundName(Bound bound) {
  switch (bound) {
    case Bound::Graphics: return "graphics-bound";
    case Bound::Processor: return "processor-bound";
    case Bound::LinkSuspected: return "link-bound (suspected)";
    case Bound::PowerOrHeat: return "power- or heat-limited";
    case Bound::GraphicsMemory: return "limited by graphics memory";
    case Bound::Capped: return "capped";
    case Bound::Undecided: return "undecided";
    case Bound::NotKnown: return "not known";
  }
  return "unknown";
}

std::string boundText(const BoundFinding& found) {
  const char* name = found.bound == Bound::Undecided ? "no single limit found" : boundName(found.bound);
  return found.evidence.empty() ? name : fmt::format("{} ({})", name, found.evidence);
}

BoundFinding boundOf(std::span<const CountedPass> passes, std::optional<double> best_power_w) {
  std::map<Bound, int> votes;
  for (const CountedPass& one : passes) ++votes[boundOfPass(*one.pass, best_power_w)];
  if (votes.empty()) return {};
  const auto most =
      std::max_element(votes.begin(), votes.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
  return {most->first, evidenceOf(passes)};
}

std::optional<double> graphicsPower(std::span<const CountedPass> passes) {
  std::vector<double> powers;
  for (const CountedPass& one : passes)
    if (const auto power = powerOf(*one.pass)) powers.push_back(*power);
  return powers.empty() ? std::nullopt : std::optional(medianOf(std::move(powers)));
}

double cappedAt(std::span<const double> frame_ms, double median_frame_ms) {
  constexpr std::array kRates{24.0, 25.0, 30.0, 48.0, 50.0, 60.0, 72.0, 75.0, 90.0, 100.0, 120.0, 144.0, 165.0, 240.0};
  constexpr double kShare = 0.6;
  constexpr double kNear = 0.01;
  const auto isNear = [](double d, double rate) { return std::abs(d - 1000 / rate) <= kNear * 1000 / rate; };
  // A rate that most frames are near has their median near it, and no two rates are within a hundredth of each other.
  const auto* const rate =
      std::find_if(kRates.begin(), kRates.end(), [&](double one) { return isNear(median_frame_ms, one); });
  if (rate == kRates.end()) return 0;
  const auto near = std::count_if(frame_ms.begin(), frame_ms.end(), [&](double d) { return isNear(d, *rate); });
  return static_cast<double>(near) >= kShare * static_cast<double>(frame_ms.size()) ? *rate : 0;
}

bool isBoundElsewhere(const std::array<BoundFinding, 2>& bound, ActsOn acts) {
  if (bound[0].bound != bound[1].bound) return false;
  switch (bound[0].bound) {
    case Bound::Capped: return true;
    case Bound::Graphics: return acts == ActsOn::Processor;
    case Bound::Processor: return acts == ActsOn::Graphics;
    default: return false;
  }
}

}  // namespace core
