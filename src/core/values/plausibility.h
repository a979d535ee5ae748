#pragma once

#include <span>
#include <string>

namespace core {

/// Why a typed result looks like a slip, as a sentence; empty where it does not. It never keeps a result out.
/// Shapes  the other results of its case at its own level, and those at the other level; either may be empty
[[nodiscard]] std::string whyImplausible(double value, std::span<const double> same_level,
                                         std::span<const double> other_level);

}  // namespace core
