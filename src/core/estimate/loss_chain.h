#pragma once

#include <optional>
#include <vector>

#include "core/estimate/units.h"

namespace core {

/// One step of a chain of configurations, and its part of the whole loss.
struct LossStep {
  double difference = 0;  ///< ln
  double share = 0;       ///< of the total; may be negative, or above 1 where another step gains
  std::optional<std::pair<double, double>> interval;  ///< of the share
};

/// A loss along a chain, accounted for step by step. The shares sum to the whole.
struct LossChain {
  Contrast total;  ///< last minus first configuration
  bool is_clear_of_zero = false;
  std::vector<LossStep> steps;
};

/// Shapes  configurations in the order of the chain, at least two
/// Errors  TooFew where no spread can be pooled
/// Source  Fieller 1954; variance pooled over all configurations, for rounds from the rounds themselves; known-answer
/// vectors
[[nodiscard]] Result<LossChain> lossChainOf(const Units& units, double confidence);

}  // namespace core
