#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "core/machine/fact.h"

namespace core {

/// What a link is called by people is no single fact of a capture: a cable's 40 Gb/s are its lanes times their speed,
/// "Gen 4 x8" a speed and a width.
inline constexpr std::string_view kCableRate = "path/cable_rate";  ///< of the narrowest cable on the way, Gb/s
inline constexpr std::string_view kSlotLink = "path/slot_link";    ///< "Gen 4 x8"

/// One of the two, worked out of a capture. Nothing for another name, and where the capture does not tell: no cable, a
/// cable that carries more one way than the other at this moment, a slot's link that was not read.
[[nodiscard]] std::optional<Fact> pathReading(std::string_view name, const Capture& capture, const std::string& device);

}  // namespace core
