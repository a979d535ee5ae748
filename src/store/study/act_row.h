#pragma once

#include <optional>
#include <string>

#include "core/record/act.h"

namespace store {

/// An act as a row of the study file's `event` table says it; docs/study-format.md lists the kinds.
struct ActRow {
  std::string kind;
  std::string subject;
  std::string text;
  bool operator==(const ActRow&) const = default;
};

[[nodiscard]] ActRow rowOf(const core::Act& act);

/// The act that a row says; core::OtherAct for a kind that is not known here, nothing where the row does not say what
/// its kind says.
[[nodiscard]] std::optional<core::Act> actOf(ActRow row);

}  // namespace store
