#pragma once

#include <cstdint>
#include <span>

#include "core/values/result.h"

namespace probe {

struct MemoryTestOptions {
  int mib = 0;  ///< tested at once; 0: half of what is free
  double seconds = 60;
  int threads = 1;
};

struct MemoryTestResult {
  int mib = 0;
  int rounds = 0;  ///< how often all of it was written and read back
  std::uint64_t errors = 0;
  std::uint64_t tested_GB = 0;
  double covered_percent = 0;  ///< of the memory that the kernel has
};

/// What such a test cannot find.
constexpr const char* kNotFoundByTest =
    "memory that others use, errors that come with heat or hours, and those that ECC corrects";

/// Writes patterns that depend on the place first, which find faults of addresses, then such that set every bit both
/// ways, reads each back and counts the words that came back otherwise; every thread on a share of its own. A short
/// test finds a profile that hardly works; only hours off-line find a rare error. Errors  OutOfRange for options, a
/// size that a cache holds among them; TooFew where the memory is not to be had
[[nodiscard]] core::Result<MemoryTestResult> testMemory(const MemoryTestOptions& options);

/// Fills words with the pattern of one round, and counts those that are not as that round filled them. `first` is the
/// place of the first of them in the whole.
void fillPattern(std::span<std::uint64_t> words, int round, std::size_t first = 0);
[[nodiscard]] std::uint64_t wrongWords(std::span<const std::uint64_t> words, int round, std::size_t first = 0);

}  // namespace probe
