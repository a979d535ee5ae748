#pragma once

#include <optional>
#include <string>

#include "core/frames/presentation.h"
#include "core/values/typed_value.h"

namespace store {

/// What a study file says of a pass beside its numbers, as JSON; an empty text where there is nothing. Reading yields
/// nothing where the text is not that.
[[nodiscard]] std::string presentationToJson(const std::optional<core::Presentation>& presentation);
[[nodiscard]] std::optional<core::Presentation> presentationFromJson(const std::string& text);
[[nodiscard]] std::string typedToJson(const std::optional<core::TypedValue>& typed);
[[nodiscard]] std::optional<core::TypedValue> typedFromJson(const std::string& text);

}  // namespace store
