#pragma once

#include <nlohmann/json_fwd.hpp>

#include "core/values/result.h"
#include "probe/options.h"

namespace probe {

/// What a command prints: its workload, how it was run, and its readings with their units.
using Answer = core::Result<nlohmann::ordered_json>;

/// Each runs a command. What `options` leaves to the machine, such as the number of threads, is decided first and
/// written there.
Answer sceneAnswer(Options& options);
Answer drawAnswer(Options& options);
Answer memoryAnswer(Options& options);
Answer memoryTestAnswer(Options& options);
Answer computeAnswer(Options& options);
Answer storageAnswer(const Options& options);
Answer copyAnswer(const Options& options);

}  // namespace probe
