#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "core/findings/findings.h"

namespace core {

/// How much of a workload a level can show at the target rate.
struct PresetsHeld {
  std::string workload;
  std::string low;  ///< the low that `with_low` is about: "1 % low (percentile)"
  /// By index among the study's cases, baseline and changed: the preset that costs most and still holds the target;
  /// nothing where none surely does.
  std::array<std::optional<std::size_t>, 2> by_average;
  std::array<std::optional<std::size_t>, 2> with_low;
  /// One level holds a preset that the other does not.
  [[nodiscard]] bool isCrossed() const { return by_average[0] != by_average[1] || with_low[0] != with_low[1]; }
};

/// One entry for each workload of several presets whose result is a rate; those that are crossed come first. Which
/// preset costs more is told by the rate that the baseline reaches in it.
[[nodiscard]] std::vector<PresetsHeld> presetsHeld(const Study& study, const Findings& findings);

}  // namespace core
