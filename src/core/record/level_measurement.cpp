#include "core/record/level_measurement.h"

#include <cmath>

#include <fmt/format.h>

#include "core/machine/device_path.h"
#include "core/machine/links.h"
#include "core/machine/memory_layout.h"

namespace core {
namespace {

// A level that yields a tenth less at the end of a visit did not hold; less than that is the noise of a measurement.
constexpr double kSag = 0.10;

bool isTime(std::string_view name) { return name.ends_with("seconds") || name.ends_with("_ns"); }

/// A ratio that the settings let expect, and how far off it may be.
struct ExpectedRatio {
  double value = 1;
  double tolerance = 0.1;
};

std::optional<ExpectedRatio> ratioOf(std::optional<double> from, std::optional<double> to, double tolerance) {
  if (!from || !to || *from <= 0 || *to <= 0) return std::nullopt;
  return ExpectedRatio{*to / *from, tolerance};
}

// A cable carries less of its rate than a slot does, and how much less is up to its controllers: then the middles of
// the plausible bands are compared.
std::optional<ExpectedRatio> linkRatio(const std::string& device, const Capture& baseline, const Capture& changed,
                                       double tolerance) {
  constexpr double kWithACable = 0.3;
  const DevicePath from_path = devicePath(baseline, device);
  const DevicePath to_path = devicePath(changed, device);
  const Hop* from = from_path.narrowestHop();
  const Hop* to = to_path.narrowestHop();
  if (!from || !to) return std::nullopt;
  if (!from->isVirtual() && !to->isVirtual()) return ratioOf(from->rateGBps(), to->rateGBps(), tolerance);
  const auto middle = [](const Hop& hop) {
    const auto band = hop.plausibleCopy();
    return band ? std::optional((band->lo_GBps + band->hi_GBps) / 2) : std::nullopt;
  };
  return ratioOf(middle(*from), middle(*to), kWithACable);
}

std::optional<double> linkRate(const std::string& device, const Capture& capture) {
  const DevicePath path = devicePath(capture, device);
  const Hop* hop = path.narrowestHop();
  return hop ? hop->rateGBps() : std::nullopt;
}

bool isCopy(std::string_view reading) { return reading == "to_device_GBps" || reading == "to_host_GBps"; }

// Memory and drives are both read; only a drive is accessed.
bool isOfADrive(const VisitMeasurement& measured) { return measured.find("access_us") != nullptr; }

// A drive that yields far less than its link carries is the limit itself.
bool isDriveAtItsLink(const Measurements& reading, const std::string& device, const Capture& capture) {
  constexpr double kNear = 0.6;
  const auto rate = linkRate(device, capture);
  return rate && reading.median() >= kNear * *rate;
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
  if (name.ends_with("KiB")) return "KiB";
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

std::optional<UsableRate> usableRate(const std::string& reading, const VariableKind& kind, const std::string& device,
                                     const Capture& capture) {
  if (reading == "read_GBps" && !kind.is_link) {
    const auto peak = memoryLayout(capture).peakGBps();
    return peak ? std::optional(UsableRate{*peak, "peak"}) : std::nullopt;
  }
  if (!isCopy(reading) && reading != "read_GBps") return std::nullopt;
  const DevicePath path = devicePath(capture, device);
  const Hop* hop = path.narrowestHop();
  if (!hop) return std::nullopt;
  if (hop->isVirtual())
    return UsableRate{reading == "to_host_GBps" ? hop->cable->to_host_GBps : hop->cable->to_device_GBps,
                      "of the cable"};
  // The device fetches what is copied to it, so those packets are read completions; what it sends are writes.
  constexpr int kCompletionHeader = 20;
  constexpr int kWriteHeader = 24;
  if (const auto payload = capture.number("pci/" + device + "/config (device control, payload)"))
    return UsableRate{*hop->rateGBps() * payloadFactor(static_cast<int>(*payload),
                                                       reading == "to_device_GBps" ? kCompletionHeader : kWriteHeader),
                      "after packet overhead"};
  return UsableRate{*hop->rateGBps(), "encoded"};
}

std::string MeasuredStep::sentence() const {
  std::string text = fmt::format("measured {}: ×{:.2f} ({:.2f} to {:.2f})", title, ratio, ratio_lo, ratio_hi);
  return text + (expected ? fmt::format(" where ×{:.2f} is expected", *expected) : "; no ratio is expected");
}

namespace {

std::optional<ExpectedRatio> expectedOf(const std::string& reading, const VariableKind& kind, const std::string& device,
                                        const Capture& baseline, const Capture& changed,
                                        const VisitMeasurement& at_baseline, const VisitMeasurement& at_changed) {
  const bool is_own = reading == kind.measures || (isCopy(reading) && isCopy(kind.measures));
  const bool is_drives = reading == "read_GBps" && isOfADrive(at_baseline) && isOfADrive(at_changed);
  switch (kind.expects) {
    case ExpectedStep::LinkRate:
      if (is_drives && (!isDriveAtItsLink(*at_baseline.find(reading), device, baseline) ||
                        !isDriveAtItsLink(*at_changed.find(reading), device, changed)))
        return std::nullopt;
      return is_own || is_drives ? linkRatio(device, baseline, changed, kind.tolerance) : std::nullopt;
    case ExpectedStep::MemoryRate:
      return is_own && !is_drives
                 ? ratioOf(memoryLayout(baseline).peakGBps(), memoryLayout(changed).peakGBps(), kind.tolerance)
                 : std::nullopt;
    case ExpectedStep::Cores:
      return is_own ? ratioOf(baseline.number("cpu/cores"), changed.number("cpu/cores"), kind.tolerance) : std::nullopt;
    case ExpectedStep::None: return is_own ? std::optional(ExpectedRatio{1, kind.tolerance}) : std::nullopt;
    case ExpectedStep::Unknown: return std::nullopt;
  }
  return std::nullopt;
}

MeasuredStep stepOf(const std::string& name, const Measurements& from, const Measurements& to, bool is_drives) {
  MeasuredStep step;
  step.name = name;
  step.title = is_drives && name == "read_GBps" ? "drive read" : readingTitle(name);
  step.baseline = from;
  step.changed = to;
  const bool is_time = isTime(name);
  const Measurements& faster = is_time ? from : to;
  const Measurements& slower = is_time ? to : from;
  step.ratio = faster.median() / slower.median();
  step.ratio_lo = faster.usualLow() / slower.usualHigh();
  step.ratio_hi = faster.usualHigh() / slower.usualLow();
  return step;
}

}  // namespace

std::vector<MeasuredStep> measuredSteps(const VariableKind& kind, const std::string& device, const Capture& baseline,
                                        const Capture& changed, const VisitMeasurement& at_baseline,
                                        const VisitMeasurement& at_changed) {
  std::vector<MeasuredStep> steps;
  for (const Reading& reading : at_baseline.readings) {
    const Measurements* to = at_changed.find(reading.name);
    if (!to || reading.measured.values.empty() || to->values.empty() || reading.name == kPageSize) continue;
    MeasuredStep step = stepOf(reading.name, reading.measured, *to, isOfADrive(at_baseline));
    if (const auto expected = expectedOf(reading.name, kind, device, baseline, changed, at_baseline, at_changed)) {
      step.expected = expected->value;
      step.tolerance = expected->tolerance;
    }
    step.agreement = agreementOf(step);
    steps.push_back(std::move(step));
  }
  return steps;
}

std::string saggedBy(const VariableKind& kind, const VisitMeasurement& start, const VisitMeasurement& end) {
  for (const Reading& reading : start.readings) {
    const std::string& name = reading.name;
    if (name != kind.measures && !(isCopy(name) && isCopy(kind.measures))) continue;
    const Measurements* after = end.find(name);
    if (!after) continue;
    const Measurements& before = reading.measured;
    const bool is_time = isTime(name);
    const double ratio = is_time ? before.median() / after->median() : after->median() / before.median();
    const bool is_clear = is_time ? after->usualLow() > before.usualHigh() : after->usualHigh() < before.usualLow();
    if (ratio >= 1 - kSag || !is_clear) continue;
    return fmt::format("measured {} went from {} to {}", readingTitle(name), readingText(name, before),
                       readingText(name, *after));
  }
  return "";
}

std::string readingTitle(const std::string& name) {
  if (name == "read_GBps") return "memory read";
  if (name == "to_device_GBps") return "copy to the device";
  if (name == "to_host_GBps") return "copy to the host";
  if (name == "copy_GBps" || name == "copied_GBps") return "memory copy rate";  // the first of earlier versions
  if (name == "latency_ns") return "memory latency";
  if (name == "access_us") return "drive access";
  if (name == "clock_GHz") return "clock of a core";
  if (name == kPageSize) return "page of the probe's memory";
  return name == "seconds" ? "speed at a fixed work" : name;
}

std::string readingText(const std::string& name, const Measurements& measured) {
  const std::string unit = unitOf(name);
  const int digits = measured.median() < 10 ? 2 : 1;
  if (measured.values.size() == 1)
    return fmt::format("{:.{}f}{}{} (1 measurement)", measured.median(), digits, unit.empty() ? "" : " ", unit);
  return fmt::format("{:.{}f}{}{} ({:.{}f} to {:.{}f} in {} measurements)", measured.median(), digits,
                     unit.empty() ? "" : " ", unit, measured.lowest(), digits, measured.highest(), digits,
                     measured.values.size());
}

}  // namespace core
