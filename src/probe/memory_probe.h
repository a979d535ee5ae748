#pragma once

#include "core/values/result.h"
#include "probe/measurement.h"

namespace probe {

struct MemoryOptions {
  int mib = 0;  ///< of each of two buffers; 0: what no cache holds
  int threads = 1;
  int repeats = 5;
  bool is_huge = true;  ///< pages of 2 MiB, where the kernel gives them
};

/// What main memory yields. Rates count each byte once: one that is copied is read and written, and counts as one, as
/// in a copy over a link.
struct MemoryReadings {
  int mib = 0;
  double huge_page_percent = 0;
  Measurements read_GBps;
  Measurements copied_GBps;
  Measurements latency_ns;  ///< one dependent load after the other, anywhere in the buffer, one thread
  Measurements clock_GHz;   ///< of one core at work, from a chain of additions that depend on each other
};

/// The least and the usual size of a buffer here: four times what the largest cache holds.
[[nodiscard]] int leastMemoryMiB();

/// Errors  OutOfRange for options, a size that a cache holds among them; TooFew where the memory is not to be had
[[nodiscard]] core::Result<MemoryReadings> measureMemory(const MemoryOptions& options);

/// The sum of all words, by vectors as wide as the processor has: reading at the speed of memory.
[[nodiscard]] std::uint64_t sumOf(const std::uint64_t* words, std::size_t count);

}  // namespace probe
