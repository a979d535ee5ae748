#pragma once

#include <string>
#include <string_view>

#include "core/machine/fact.h"
#include "core/values/result.h"

namespace store {

/// A capture as JSON, without loss. Described in docs/capture-format.md. `indent` < 0 writes one line.
[[nodiscard]] std::string captureToJson(const core::Capture& capture, int indent = -1);

/// The inverse. Fields that a later version added are passed over.
/// Errors  Malformed with `source_name` and what is wrong there
[[nodiscard]] core::Result<core::Capture> captureFromJson(std::string_view text, const std::string& source_name);

}  // namespace store
