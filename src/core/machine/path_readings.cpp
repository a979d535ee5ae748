#include "core/machine/path_readings.h"

#include <fmt/format.h>

#include "core/machine/device_path.h"
#include "core/machine/links.h"

namespace core {
namespace {

std::optional<Fact> cableRateOf(const DevicePath& path) {
  constexpr double kBits = 8;
  for (const Hop& hop : path.hops) {
    if (!hop.cable) continue;
    if (hop.cable->to_device_GBps != hop.cable->to_host_GBps) return std::nullopt;
    Fact fact;
    fact.number = hop.cable->to_device_GBps * kBits;
    fact.value = fmt::format("{:g}", *fact.number);
    fact.unit = "Gb/s";
    return fact;
  }
  return std::nullopt;
}

std::optional<Fact> slotLinkOf(const DevicePath& path) {
  const Hop* hop = path.slotHop();
  if (!hop || hop->isVirtual() || hop->now.lanes == 0) return std::nullopt;
  const auto generation = pcieGeneration(hop->now.gts);
  if (!generation) return std::nullopt;
  Fact fact;
  fact.value = fmt::format("Gen {} x{}", *generation, hop->now.lanes);
  return fact;
}

}  // namespace

std::optional<Fact> pathReading(std::string_view name, const Capture& capture, const std::string& device) {
  std::optional<Fact> fact;
  if (name == kCableRate) fact = cableRateOf(devicePath(capture, device));
  if (name == kSlotLink) fact = slotLinkOf(devicePath(capture, device));
  if (fact) fact->name = name;
  return fact;
}

}  // namespace core
