#pragma once

#include <string>

#include <nlohmann/json.hpp>

#include "core/values/result.h"
#include "store/logs/log_shape.h"

namespace cli {

/// What the frames of one run say, for scripts. Errors of core::frameMetrics
[[nodiscard]] core::Result<nlohmann::ordered_json> framesJson(const store::ImportedRun& run, double target_fps);
/// The same in one line, for reading; empty where there is nothing to say.
[[nodiscard]] std::string framesLine(const store::ImportedRun& run);

}  // namespace cli
