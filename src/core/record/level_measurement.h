#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/machine/variable_kind.h"
#include "core/record/pass.h"
#include "core/values/measurements.h"

namespace core {

/// One quantity as a measuring command printed it.
struct Reading {
  std::string name;  ///< with its unit: "read_GBps", "seconds"
  Measurements measured;
};

/// What the level yielded at one moment of a visit, by measurement.
struct VisitMeasurement {
  std::int64_t visit_id = 0;
  CaptureMoment moment = CaptureMoment::Start;
  std::vector<Reading> readings;
  std::string failure;  ///< one sentence where nothing could be measured; then there are no readings

  /// Nothing where it was not measured.
  [[nodiscard]] const Measurements* find(std::string_view name) const;
};

/// The mean size of the pages on which a memory probe's own memory lay, KiB: beside its readings, never one of them.
constexpr const char* kPageSize = "page_KiB";

/// Nothing where that moment was not measured.
[[nodiscard]] const VisitMeasurement* measurementOf(std::int64_t visit_id, CaptureMoment moment,
                                                    std::span<const VisitMeasurement> measurements);

/// The most that a quantity can be at a level, and what that rests on.
struct UsableRate {
  double GBps = 0;
  std::string of;  ///< "after packet overhead", "encoded", "peak"
};
/// Of a memory reading the peak; of a copy, or a drive's reading, the narrowest hop's rate after packet overhead, where
/// the packet size was read, else the encoded rate; behind a cable the cable's own. Nothing for quantities that no
/// arithmetic bounds, and where a cable does not tell its figures.
/// Shapes  reading: as the measuring command names it, "to_host_GBps"
[[nodiscard]] std::optional<UsableRate> usableRate(const std::string& reading, const VariableKind& kind,
                                                   const std::string& device, const Capture& capture);

/// How the levels compare by measurement.
enum class Agreement {
  Agrees,     ///< the measured step is the one that the settings let expect
  Disagrees,  ///< it is not: another bottleneck, or the setting did not take
  TooNoisy,   ///< the spread covers both the expected step and none at all
  NoStep      ///< nothing lets expect a certain step; the measurement is shown, not judged
};

/// One reading at both levels.
struct MeasuredStep {
  std::string name;   ///< "read_GBps"
  std::string title;  ///< "memory read", of a drive's "drive read"
  Measurements baseline;
  Measurements changed;
  double ratio = 1;     ///< of speeds, changed to baseline: above 1 is faster, also where the reading is a time
  double ratio_lo = 1;  ///< by the usual lowest and highest of both
  double ratio_hi = 1;
  std::optional<double> expected;  ///< the ratio that the captures let expect
  double tolerance = 0;            ///< relative, around `expected`
  Agreement agreement = Agreement::NoStep;

  /// "measured memory read: x0.99 (0.97 to 1.01) where x0.80 is expected".
  [[nodiscard]] std::string sentence() const;
};

/// Every reading that both levels have, in the order of the baseline's; judged where the settings let expect a step.
/// Source  the arithmetic of links and memory; bands of 10 % around a ratio, wider for cores, which boost, and for
/// cables, whose controllers differ. A drive that is slower than its link tells nothing about the link
[[nodiscard]] std::vector<MeasuredStep> measuredSteps(const VariableKind& kind, const std::string& device,
                                                      const Capture& baseline, const Capture& changed,
                                                      const VisitMeasurement& at_baseline,
                                                      const VisitMeasurement& at_changed);

/// What fell by more than a tenth between the start and the end of a visit, as a sentence; empty where nothing did.
[[nodiscard]] std::string saggedBy(const VariableKind& kind, const VisitMeasurement& start,
                                   const VisitMeasurement& end);

/// "copy to the device" of "to_device_GBps"; the name itself where it is not one of the probe's.
[[nodiscard]] std::string readingTitle(const std::string& name);

/// "27.1 GB/s (26.9 to 27.3 of 5)".
[[nodiscard]] std::string readingText(const std::string& name, const Measurements& measured);

}  // namespace core
