#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "core/estimate/effect.h"

namespace core {

/// A level to which the bench could not be brought, or which did not hold: a result of its own.
struct Unreachable {
  ConfigurationId configuration = ConfigurationId::Changed;
  std::string reason;  ///< what was tried, and what happened
};

/// The next lower level of a kind, by the number in the level's name: "Gen 4" of "Gen 5", "x8" of "x16", "5600 MT/s" of
/// "6000 MT/s" (the steps of the memory standards). Nothing where the name holds no such number, or none is lower.
[[nodiscard]] std::optional<std::string> nextLowerLevel(std::string_view kind_id, const std::string& level_name);

}  // namespace core
