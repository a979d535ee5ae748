#pragma once

#include <string>
#include <vector>

#include "core/values/result.h"
#include "store/logs/log_blocks.h"
#include "store/logs/log_shape.h"

namespace store {

/// The first lines of a log, whole ones, enough to find out its shape. Errors  Io
[[nodiscard]] core::Result<std::string> headOf(const LogBlocks& log);

/// Reads the runs of a log by its shape, on as many threads as the machine has cores, four at most.
/// Errors  Malformed{line, column} for the first row that does not fit; TooFew for a log without a frame; Io
[[nodiscard]] core::Result<std::vector<ImportedRun>> readRuns(const LogBlocks& log, const LogShape& shape,
                                                              const std::string& log_name);
/// The same of an array of JSON objects too.
[[nodiscard]] core::Result<std::vector<ImportedRun>> importRuns(const LogBlocks& log, const LogShape& shape,
                                                                const std::string& log_name);

}  // namespace store
