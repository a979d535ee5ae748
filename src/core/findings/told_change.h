#pragma once

#include <optional>
#include <string>

#include "core/estimate/effect.h"
#include "core/values/metric.h"

namespace core {

/// A contrast as it is told: as an improvement in percent, or, of a metric of differences, as the metric itself
/// changed.
struct ToldChange {
  std::optional<PercentChange> improvement;  ///< direction taken out; where it is a ratio and has one
  std::optional<UnitChange> difference;      ///< else of the metric itself, in its unit

  [[nodiscard]] bool isTold() const { return improvement || difference; }
  /// Did it surely move?
  [[nodiscard]] bool doesExcludeZero() const;
  /// "+2.3 % (1.1 to 3.5)", "+6 s (4 to 8)"; empty where there is nothing to tell. `unit`: its metric's
  [[nodiscard]] std::string changeText(const std::string& unit) const;
};

/// `improvement`: a contrast on the improvement scale of a metric of that direction; `is_log`: of its logarithms
[[nodiscard]] ToldChange toldChangeOf(const Contrast& improvement, bool is_log, Direction direction);

}  // namespace core
