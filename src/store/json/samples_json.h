#pragma once

#include <string>
#include <string_view>

#include "core/machine/samples.h"
#include "core/values/result.h"

namespace store {

/// The samples of a pass as JSON, without loss; a value that could not be read is null.
[[nodiscard]] std::string samplesToJson(const core::Samples& samples);

/// The inverse. Errors  DamagedFile for text that samplesToJson did not write
[[nodiscard]] core::Result<core::Samples> samplesFromJson(std::string_view text);

/// The same packed, as a study file holds them.
[[nodiscard]] core::Result<core::Samples> unpackSamples(std::string_view packed);

}  // namespace store
