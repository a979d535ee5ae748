#pragma once

#include <map>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/machine/fact.h"

namespace core {

struct DevicePath;

/// Something that a tester keeps equal while a whole is exchanged: a board, a host, a processor, a firmware version.
/// It is told by what it means, not by where the machine shows it: another board has its slot elsewhere.
struct HeldCondition {
  std::string_view id;                  ///< "memory/configured_speed"; stands in designs, and never changes
  std::vector<std::string_view> facts;  ///< behind it: patterns with places, as core::VariableKind has them
};

[[nodiscard]] std::span<const HeldCondition> heldConditions();
/// Nothing for an id that is not known.
[[nodiscard]] const HeldCondition* findHeldCondition(std::string_view id);

/// The facts' patterns with the addresses of this machine in their places.
[[nodiscard]] std::vector<std::string> placedFacts(const HeldCondition& condition, const std::string& device,
                                                   const DevicePath& path);

/// What the condition is in a capture, as a fact of the condition's name; absent where the machine does not show it,
/// denied where a part of it could not be read.
[[nodiscard]] Fact heldFact(const HeldCondition& condition, const Capture& capture, const std::string& device);

}  // namespace core
