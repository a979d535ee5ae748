#include "core/machine/held_conditions.h"

#include <algorithm>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/machine/device_path.h"
#include "core/machine/variable_kind.h"

namespace core {

std::span<const HeldCondition> heldConditions() {
  static const std::vector<HeldCondition> conditions{
      {"memory/configured_speed", {"dmi/memory/*/configured_speed"}},
      {"memory/installed", {"memory/installed"}},
      {"cpu/governor", {"cpu/governor"}},
      {"cpu/smt_active", {"cpu/smt_active"}},
      {"cpu/boost", {"cpu/boost", "cpu/no_turbo"}},
      {"device/link_speed", {"pci/{slot}/current_link_speed"}},
      {"device/link_width", {"pci/{slot}/current_link_width"}},
      {"device/cable", {"thunderbolt/*_speed", "thunderbolt/*_lanes"}},
      {"device/external", {"pci/{device}/removable", "thunderbolt/*/link"}},
      {"device/aperture", {"pci/{device}/aperture_size"}},
      {"power/mains", {"power/*/online"}},
      {"kernel/osrelease", {"kernel/osrelease"}},
      {"kernel/version", {"kernel/version"}},
      {"device/driver", {"pci/{device}/driver", "pci/{device}/driver_version", "graphics/{device}/vulkan_driver"}},
      {"device/display", {"pci/{device}/display/*"}}};
  return conditions;
}

const HeldCondition* findHeldCondition(std::string_view id) {
  const auto all = heldConditions();
  const auto found = std::find_if(all.begin(), all.end(), [&](const HeldCondition& one) { return one.id == id; });
  return found == all.end() ? nullptr : &*found;
}

std::vector<std::string> placedFacts(const HeldCondition& condition, const std::string& device,
                                     const DevicePath& path) {
  std::vector<std::string> all;
  for (const std::string_view pattern : condition.facts)
    for (std::string& one : placedPatterns(pattern, device, path)) all.push_back(std::move(one));
  return all;
}

Fact heldFact(const HeldCondition& condition, const Capture& capture, const std::string& device) {
  Fact held;
  held.name = condition.id;
  held.status = FactStatus::Absent;
  const auto patterns = placedFacts(condition, device, devicePath(capture, device));
  std::set<std::string> shown;
  for (const Fact& fact : capture.facts) {
    const bool fits = std::any_of(patterns.begin(), patterns.end(),
                                  [&](const std::string& pattern) { return matchesPattern(pattern, fact.name); });
    if (!fits) continue;
    if (!fact.isRead()) {
      held.status = fact.status;
      held.why = fact.why;
      return held;
    }
    // Two drivers say the same thing, one of them upside down.
    const bool is_upside_down = fact.name == "cpu/no_turbo";
    if (condition.id == "cpu/boost")
      shown.insert((fact.value == "1") != is_upside_down ? "on" : "off");
    else if (fact.value != "no display" &&
             !(fact.value == "none" && fact.name.ends_with("/link")))  // of a port where nothing is plugged in
      shown.insert(fact.shown());
  }
  if (shown.empty()) return held;
  held.status = FactStatus::Read;
  held.value = fmt::format("{}", fmt::join(shown, ", "));
  return held;
}

}  // namespace core
