#include "core/level_measurement.h"

#include <cmath>

#include <fmt/format.h>

#include "core/device_path.h"
#include "core/links.h"
#include "core/memory_layout.h"

namespace core {
namespace {

// A level that yields a tenth less at the end of a visit did not hold; less than that is the noise of a measurement.
constexpr double kSag = 0.10;

bool isTime(std::string_view name) { return name.ends_with("seconds") || name.ends_with("_ns"); }

const Hop* realNarrowest(const DevicePath& path) {
  for (const Hop& hop : path.hops)
    if (hop.isVirtual()) return nullptr;
  return path.narrowest && path.hops[*path.narrowest].now.lanes > 0 ? &path.hops[*path.narrowest] : nullptr;
}

std::optional<double> linkRate(const std::string& device, const Capture& capture) {
  const DevicePath path = devicePath(capture, device);
  const Hop* hop = realNarrowest(path);
  return hop ? std::optional(encodedGBps(hop->now)) : std::nullopt;
}

std::optional<double> expectedRatio(const VariableKind& kind, const std::string& device, const Capture& baseline,
                                    const Capture& changed) {
  const auto ratio = [](std::optional<double> from, std::optional<double> to) {
    return from && to && *from > 0 && *to > 0 ? std::optional(*to / *from) : std::nullopt;
  };
  switch (kind.expects) {
    case ExpectedStep::LinkRate: return ratio(linkRate(device, baseline), linkRate(device, changed));
    case ExpectedStep::MemoryRate: return ratio(memoryLayout(baseline).peakGBps(), memoryLayout(changed).peakGBps());
    case ExpectedStep::Cores: return ratio(baseline.number("cpu/cores"), changed.number("cpu/cores"));
    case ExpectedStep::None: return 1.0;
    case ExpectedStep::Unknown: return std::nullopt;
  }
  return std::nullopt;
}

Agreement agreementOf(const MeasuredStep& step) {
  if (!step.expected) return Agreement::NoStep;
  const auto overlaps = [&](double center) {
    return step.ratio_hi >= center * (1 - step.tolerance) && step.ratio_lo <= center * (1 + step.tolerance);
  };
  if (!overlaps(*step.expected)) return Agreement::Disagrees;
  const bool is_step = std::abs(*step.expected - 1) > 2 * step.tolerance;
  return is_step && overlaps(1) ? Agreement::TooNoisy : Agreement::Agrees;
}

std::string unitOf(const std::string& name) {
  if (name.ends_with("GBps")) return "GB/s";
  if (name.ends_with("GHz")) return "GHz";
  if (name.ends_with("_ns")) return "ns";
  if (name.ends_with("_us")) return "µs";
  return name.ends_with("seconds") ? "s" : "";
}

}  // namespace

const Measurements* VisitMeasurement::find(std::string_view name) const {
  for (const Reading& reading : readings)
    if (reading.name == name) return &reading.measured;
  return nullptr;
}

const VisitMeasurement* measurementOf(std::int64_t visit_id, CaptureMoment moment,
                                      std::span<const VisitMeasurement> measurements) {
  for (const VisitMeasurement& one : measurements)
    if (one.visit_id == visit_id && one.moment == moment) return &one;
  return nullptr;
}

std::optional<UsableRate> usableRate(const VariableKind& kind, const std::string& device, const Capture& capture) {
  if (kind.measures == "read_GBps") {
    const auto peak = memoryLayout(capture).peakGBps();
    return peak ? std::optional(UsableRate{*peak, "peak"}) : std::nullopt;
  }
  if (kind.measures != "to_device_GBps") return std::nullopt;
  const auto encoded = linkRate(device, capture);
  if (!encoded) return std::nullopt;
  // The device fetches what is copied to it, so its packets are read completions.
  constexpr int kCompletionHeader = 20;
  if (const auto payload = capture.number("pci/" + device + "/config (device control, payload)"))
    return UsableRate{*encoded * payloadFactor(static_cast<int>(*payload), kCompletionHeader), "after packet overhead"};
  return UsableRate{*encoded, "encoded"};
}

std::string MeasuredStep::sentence() const {
  std::string text =
      fmt::format("measured {}: ×{:.2f} ({:.2f} to {:.2f})", readingTitle(name), ratio, ratio_lo, ratio_hi);
  if (expected) text += fmt::format(" where ×{:.2f} is expected", *expected);
  return text;
}

std::optional<MeasuredStep> measuredStep(const VariableKind& kind, const std::string& device, const Capture& baseline,
                                         const Capture& changed, const VisitMeasurement& at_baseline,
                                         const VisitMeasurement& at_changed) {
  const Measurements* from = at_baseline.find(kind.measures);
  const Measurements* to = at_changed.find(kind.measures);
  if (!from || !to) return std::nullopt;
  MeasuredStep step;
  step.name = kind.measures;
  step.baseline = *from;
  step.changed = *to;
  const bool is_time = isTime(kind.measures);
  const Measurements& faster = is_time ? *from : *to;
  const Measurements& slower = is_time ? *to : *from;
  step.ratio = faster.median() / slower.median();
  step.ratio_lo = faster.usualLow() / slower.usualHigh();
  step.ratio_hi = faster.usualHigh() / slower.usualLow();
  step.expected = expectedRatio(kind, device, baseline, changed);
  step.tolerance = kind.tolerance;
  step.agreement = agreementOf(step);
  return step;
}

std::string saggedBy(const VariableKind& kind, const VisitMeasurement& start, const VisitMeasurement& end) {
  const Measurements* before = start.find(kind.measures);
  const Measurements* after = end.find(kind.measures);
  if (!before || !after) return "";
  const std::string name(kind.measures);
  const bool is_time = isTime(name);
  const double ratio = is_time ? before->median() / after->median() : after->median() / before->median();
  const bool is_clear = is_time ? after->usualLow() > before->usualHigh() : after->usualHigh() < before->usualLow();
  if (ratio >= 1 - kSag || !is_clear) return "";
  return fmt::format("measured {} went from {} to {}", readingTitle(name), readingText(name, *before),
                     readingText(name, *after));
}

std::string readingTitle(const std::string& name) {
  if (name == "read_GBps") return "memory read";
  if (name == "to_device_GBps") return "copy to the device";
  if (name == "clock_GHz") return "clock of a core";
  return name == "seconds" ? "speed at a fixed work" : name;
}

std::string readingText(const std::string& name, const Measurements& measured) {
  const std::string unit = unitOf(name);
  const int digits = measured.median() < 10 ? 2 : 1;
  return fmt::format("{:.{}f}{}{} ({:.{}f} to {:.{}f} of {})", measured.median(), digits, unit.empty() ? "" : " ", unit,
                     measured.lowest(), digits, measured.highest(), digits, measured.values.size());
}

}  // namespace core
