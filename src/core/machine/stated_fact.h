#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>

#include "core/machine/fact.h"
#include "core/values/result.h"

namespace core {

/// Something about a bench that no file says and only a person knows.
struct StatedKind {
  std::string_view id;  ///< stable; the fact's name is "stated/" and this
  std::string_view title;
  std::string_view unit;  ///< where it is a number
  std::string_view example;
  FactKind kind = FactKind::Configuration;  ///< a condition such as the room's temperature is evidence, never a setting
};

/// All that are asked for, in order.
[[nodiscard]] std::span<const StatedKind> statedKinds();
/// Nothing for an id that is not known.
[[nodiscard]] const StatedKind* findStatedKind(std::string_view id);

/// The fact that a person stated. Errors  OutOfRange for an unknown id, Malformed where a number is asked for
[[nodiscard]] Result<Fact> statedFact(std::string_view id, const std::string& value, const std::string& person);

}  // namespace core
