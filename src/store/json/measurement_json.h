#pragma once

#include <string>
#include <string_view>

#include "core/record/level_measurement.h"
#include "core/values/result.h"

namespace store {

/// What a measurement found, without visit and moment, which stand beside it in the study file.
[[nodiscard]] std::string measurementToJson(const core::VisitMeasurement& measurement);

/// The inverse. Errors  DamagedFile with `source_name`
[[nodiscard]] core::Result<core::VisitMeasurement> measurementFromJson(std::string_view text,
                                                                       const std::string& source_name);

}  // namespace store
