#pragma once

#include <cstdint>

#include "core/values/result.h"
#include "probe/measurement.h"

namespace probe {

struct ComputeOptions {
  int threads = 1;
  int repeats = 5;
  std::int64_t million_steps = 200;  ///< the work, however many threads share it
};

struct ComputeReadings {
  Measurements seconds;
  std::uint64_t checksum = 0;  ///< the same for any number of threads: the work was really done
};

/// A fixed amount of integer work, shared among threads. Errors  OutOfRange for options
[[nodiscard]] core::Result<ComputeReadings> measureCompute(const ComputeOptions& options);

}  // namespace probe
