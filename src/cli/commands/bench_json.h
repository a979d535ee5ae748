#pragma once

#include <nlohmann/json.hpp>

#include "core/machine/comparison.h"

namespace cli {

/// The facts of a capture that a script most often wants, gathered: the device and its path, aperture, memory,
/// processor, firmware. What could not be read is null.
[[nodiscard]] nlohmann::ordered_json factsJson(const core::Capture& capture, const std::string& device);

/// A comparison: {"diff": {...}, "verdict": {...}}. Readings of evidence stand under the captures' names.
[[nodiscard]] nlohmann::ordered_json comparisonJson(const core::Comparison& comparison,
                                                    const core::ComparisonOrder& order);

}  // namespace cli
