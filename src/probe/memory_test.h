#pragma once

#include <cstdint>
#include <span>

#include "core/result.h"

namespace probe {

struct MemoryTestOptions {
  int mib = 0;  ///< tested at once; 0: half of what is free
  double seconds = 60;
};

struct MemoryTestResult {
  int mib = 0;
  int rounds = 0;  ///< how often all of it was written and read back
  std::uint64_t errors = 0;
  std::uint64_t tested_GB = 0;
};

/// Writes patterns that set every bit both ways and depend on the place, reads them back and counts the words that came
/// back otherwise. A short test finds a profile that hardly works; only hours off-line find a rare error.
/// Errors  OutOfRange for options, TooFew where the memory is not to be had
[[nodiscard]] core::Result<MemoryTestResult> testMemory(const MemoryTestOptions& options);

/// Fills words with the pattern of one round, and counts those that are not as that round filled them.
void fillPattern(std::span<std::uint64_t> words, int round);
[[nodiscard]] std::uint64_t wrongWords(std::span<const std::uint64_t> words, int round);

}  // namespace probe
