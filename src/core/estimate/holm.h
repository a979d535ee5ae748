#pragma once

#include <optional>
#include <span>
#include <vector>

namespace core {

/// p values adjusted for their number, in the order given. Absent p values are outside the family and stay absent.
/// Source  Holm 1979, step-down, capped at 1
[[nodiscard]] std::vector<std::optional<double>> holmAdjusted(std::span<const std::optional<double>> p);

}  // namespace core
