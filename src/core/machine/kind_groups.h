#pragma once

#include <span>
#include <string_view>

namespace core {

/// Kinds of variables by what they belong to, as they are offered to a person.
struct KindGroup {
  std::string_view title;                   ///< "links"
  std::span<const std::string_view> kinds;  ///< ids of core::VariableKind
};

/// Every kind stands in exactly one of them.
[[nodiscard]] std::span<const KindGroup> kindGroups();

}  // namespace core
