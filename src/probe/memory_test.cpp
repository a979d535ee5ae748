#include "probe/memory_test.h"

#include <unistd.h>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <memory>

namespace probe {
namespace {

constexpr std::size_t kMiB = 1024 * 1024;
constexpr int kMostMiB = 1024 * 1024;

// All ones, all zeros, neighbours unlike, and words that tell their place apart.
std::uint64_t patternAt(std::size_t i, int round) {
  constexpr std::uint64_t kOdd = 0x5555555555555555;
  switch (round % 4) {
    case 0: return 0;
    case 1: return ~std::uint64_t{0};
    case 2: return i % 2 == 0 ? kOdd : ~kOdd;
    default: return (i + 1 + static_cast<std::size_t>(round)) * 0x9E3779B97F4A7C15;
  }
}

int halfOfFree() {
  const auto bytes =
      static_cast<std::size_t>(::sysconf(_SC_AVPHYS_PAGES)) * static_cast<std::size_t>(::sysconf(_SC_PAGESIZE));
  return static_cast<int>(std::clamp<std::size_t>(bytes / 2 / kMiB, 64, kMostMiB));
}

}  // namespace

void fillPattern(std::span<std::uint64_t> words, int round) {
  for (std::size_t i = 0; i < words.size(); ++i) words[i] = patternAt(i, round);
}

std::uint64_t wrongWords(std::span<const std::uint64_t> words, int round) {
  std::uint64_t wrong = 0;
  for (std::size_t i = 0; i < words.size(); ++i) wrong += words[i] != patternAt(i, round);
  return wrong;
}

core::Result<MemoryTestResult> testMemory(const MemoryTestOptions& options) {
  if (options.mib < 0 || options.mib > kMostMiB || options.seconds <= 0)
    return core::Error{core::ErrorKind::OutOfRange, "there is nothing to test", "memory-test",
                       "Give MiB up to 1048576 and seconds above 0"};
  using Clock = std::chrono::steady_clock;
  const auto begin = Clock::now();
  const auto elapsed_s = [&] { return std::chrono::duration<double>(Clock::now() - begin).count(); };
  MemoryTestResult result;
  result.mib = options.mib > 0 ? options.mib : halfOfFree();
  const std::size_t count = static_cast<std::size_t>(result.mib) * kMiB / sizeof(std::uint64_t);
  const std::unique_ptr<std::uint64_t[]> memory(new (std::nothrow) std::uint64_t[count]);
  if (!memory)
    return core::Error{core::ErrorKind::TooFew, "so much memory is not to be had", "memory-test", "Give fewer MiB"};
  const std::span words(memory.get(), count);
  do {
    fillPattern(words, result.rounds);
    std::atomic_signal_fence(std::memory_order_seq_cst);  // what is read back is what memory holds
    result.errors += wrongWords(words, result.rounds);
    ++result.rounds;
  } while (elapsed_s() < options.seconds);
  result.tested_GB =
      static_cast<std::uint64_t>(result.rounds) * static_cast<std::uint64_t>(result.mib) * kMiB / 1'000'000'000;
  return result;
}

}  // namespace probe
