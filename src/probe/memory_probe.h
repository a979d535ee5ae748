#pragma once

#include "core/result.h"
#include "probe/measurement.h"

namespace probe {

struct MemoryOptions {
  int mib = 256;  ///< of each buffer; far beyond every cache
  int threads = 1;
  int repeats = 5;
};

/// What main memory yields. Rates count the bytes that the program reads or writes; the processor may move more (a
/// plain store first fetches its line). Copy counts both the bytes read and those written.
struct MemoryReadings {
  Measurements read_GBps;
  Measurements write_GBps;
  Measurements copy_GBps;
  Measurements latency_ns;  ///< one dependent load after the other, anywhere in the buffer, one thread
  Measurements clock_GHz;   ///< of one core at work, from a chain of additions that depend on each other
};

/// Errors  OutOfRange for options, TooFew where the memory is not to be had
[[nodiscard]] core::Result<MemoryReadings> measureMemory(const MemoryOptions& options);

}  // namespace probe
