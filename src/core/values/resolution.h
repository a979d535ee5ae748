#pragma once

#include <span>

namespace core {

/// The step by which numbers were rounded before anybody saw them, read from their own digits: the coarsest of 1, 0.1,
/// 0.01 … that every one is a multiple of, where all are whole or it is at least a tenth of what they spread. Else 0:
/// then their digits hide nothing.
/// Shapes  any order; those that are not finite are passed over
[[nodiscard]] double resolutionOf(std::span<const double> values);

}  // namespace core
