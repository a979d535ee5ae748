#include "core/findings/level_resources.h"

#include <algorithm>

#include "core/machine/device_path.h"
#include "core/machine/variable_kind.h"
#include "core/values/median.h"

namespace core {
namespace {

// Of all visits to it, at their start.
std::optional<LevelResource> measuredAt(ConfigurationId configuration, const VariableKind& kind, const Record& record) {
  if (!kind.measures.ends_with("_GBps")) return std::nullopt;
  std::vector<double> values;
  for (const Visit& visit : record.visits) {
    if (visit.configuration != configuration) continue;
    const auto* measured = measurementOf(visit.id, CaptureMoment::Start, record.measurements);
    const Measurements* reading = measured ? measured->find(kind.measures) : nullptr;
    if (reading && !reading->values.empty()) values.push_back(reading->median());
  }
  if (values.empty()) return std::nullopt;
  return LevelResource{medianOf(values), "GB/s", ResourceSource::Measured};
}

std::optional<LevelResource> readOfLink(const Capture& capture, const std::string& device) {
  const DevicePath path = devicePath(capture, device);
  const Hop* hop = path.narrowestHop();
  const auto rate = hop ? hop->rateGBps() : std::nullopt;
  return rate ? std::optional(LevelResource{*rate, "GB/s", ResourceSource::Read}) : std::nullopt;
}

// The number of the first fact that tells the level.
std::optional<LevelResource> readOfFact(const Capture& capture, const ExpectedReading& expected,
                                        const std::string& device) {
  const auto patterns = placedPatterns(expected.fact, device, devicePath(capture, device));
  for (const Fact& fact : capture.facts)
    for (const std::string& pattern : patterns)
      if (fact.number && *fact.number > 0 && matchesPattern(pattern, fact.name))
        return LevelResource{*fact.number, fact.unit, ResourceSource::Read};
  return std::nullopt;
}

std::optional<LevelResource> readAt(ConfigurationId configuration, const Variable& variable, const VariableKind& kind,
                                    const std::optional<ExpectedReading>& expected, const Record& record) {
  for (const Visit& visit : record.visits) {
    if (visit.configuration != configuration) continue;
    const VisitCapture* best = nullptr;
    for (const VisitCapture& one : record.captures)
      if (one.visit_id == visit.id && (best == nullptr || one.moment == CaptureMoment::UnderLoad)) best = &one;
    if (best == nullptr) continue;
    const std::string device = variable.device.empty() ? likelyGraphicsDevice(best->capture) : variable.device;
    const auto found = kind.is_link ? readOfLink(best->capture, device)
                       : expected   ? readOfFact(best->capture, *expected, device)
                                    : std::nullopt;
    if (found) return found;
  }
  return std::nullopt;
}

}  // namespace

const char* resourceSourceName(ResourceSource source) {
  switch (source) {
    case ResourceSource::Design: return "as the design says";
    case ResourceSource::Measured: return "as measured";
    case ResourceSource::Read: return "as read";
  }
  return "unknown";
}

std::vector<std::optional<LevelResource>> levelResources(const Study& study, const Record& record) {
  if (study.variables.size() != 1) return {};
  const Variable& variable = study.variable();
  const VariableKind* kind = findVariableKind(variable.kind);
  std::vector<std::optional<LevelResource>> resources;
  for (const ConfigurationId one : configurationsOf(study)) {
    const Level& level = variable.levels[study.levelsAt(one).front()];
    std::optional<LevelResource> resource;
    if (level.resource) resource = LevelResource{*level.resource, variable.resource_unit, ResourceSource::Design};
    if (!resource && kind) resource = measuredAt(one, *kind, record);
    if (!resource && kind)
      resource =
          readAt(one, variable, *kind, level.reads ? level.reads : proposedReading(variable.kind, level.name), record);
    resources.push_back(std::move(resource));
  }
  return resources;
}

bool isOfOneKind(const LevelResource& one, const LevelResource& other) {
  return one.unit == other.unit && one.source == other.source;
}

std::optional<LevelResource> usualResource(std::span<const std::optional<LevelResource>> resources) {
  std::optional<LevelResource> usual;
  std::ptrdiff_t most = 0;
  for (const auto& one : resources) {
    if (!one) continue;
    const auto alike = std::count_if(resources.begin(), resources.end(),
                                     [&](const auto& other) { return other && isOfOneKind(*one, *other); });
    if (alike <= most) continue;
    most = alike;
    usual = one;
  }
  return usual;
}

}  // namespace core
