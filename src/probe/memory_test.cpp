#include "probe/memory_test.h"

#include <unistd.h>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <utility>

#include <fmt/format.h>

#include "probe/crew.h"
#include "probe/memory_probe.h"
#include "probe/page_memory.h"

namespace probe {
namespace {

constexpr std::size_t kMiB = 1024 * 1024;
constexpr int kMostMiB = 1024 * 1024;

// Words that tell their place apart, as they are and turned over; all zeros, all ones, neighbours unlike both ways; and
// words without any order.
std::uint64_t patternAt(std::size_t place, int round) {
  constexpr std::uint64_t kOdd = 0x5555555555555555;
  switch (round % 7) {
    case 0: return place;
    case 1: return ~std::uint64_t{place};
    case 2: return 0;
    case 3: return ~std::uint64_t{0};
    case 4: return place % 2 == 0 ? kOdd : ~kOdd;
    case 5: return place % 2 == 0 ? ~kOdd : kOdd;
    default: return (place + 1 + static_cast<std::size_t>(round)) * 0x9E3779B97F4A7C15;
  }
}

std::size_t bytesOf(int pages) {
  return static_cast<std::size_t>(::sysconf(pages)) * static_cast<std::size_t>(::sysconf(_SC_PAGESIZE));
}

int halfOfFree(int least) {
  return static_cast<int>(
      std::clamp<std::size_t>(bytesOf(_SC_AVPHYS_PAGES) / 2 / kMiB, static_cast<std::size_t>(least), kMostMiB));
}

}  // namespace

void fillPattern(std::span<std::uint64_t> words, int round, std::size_t first) {
  for (std::size_t i = 0; i < words.size(); ++i) words[i] = patternAt(first + i, round);
}

std::uint64_t wrongWords(std::span<const std::uint64_t> words, int round, std::size_t first) {
  std::uint64_t wrong = 0;
  for (std::size_t i = 0; i < words.size(); ++i) wrong += words[i] != patternAt(first + i, round);
  return wrong;
}

core::Result<MemoryTestResult> testMemory(const MemoryTestOptions& options) {
  constexpr double kMostSeconds = 7 * 86400;
  const int least = leastMemoryMiB();
  const bool is_size = options.mib == 0 || (options.mib >= least && options.mib <= kMostMiB);
  const bool is_time = options.seconds > 0 && options.seconds <= kMostSeconds;  // not a number is neither
  if (!is_size || !is_time || options.threads < 1 || options.threads > 1024)
    return core::Error{
        core::ErrorKind::OutOfRange, "the options do not fit", "memory-test",
        fmt::format("Use --mib {} to {} (a cache here holds {} MiB: less would test that), --seconds above "
                    "0 to {:.0f}, --threads 1 to 1024",
                    least, kMostMiB, largestCacheMiB(), kMostSeconds)};
  using Clock = std::chrono::steady_clock;
  const auto begin = Clock::now();
  const auto elapsed_s = [&] { return std::chrono::duration<double>(Clock::now() - begin).count(); };
  MemoryTestResult result;
  result.mib = options.mib > 0 ? options.mib : halfOfFree(least);
  const PageMemory memory(static_cast<std::size_t>(result.mib) * kMiB, true);
  if (memory.words().empty())
    return core::Error{core::ErrorKind::TooFew, "so much memory is not to be had", "memory-test", "Give fewer MiB"};
  Crew crew(options.threads);
  const std::size_t share = memory.words().size() / static_cast<std::size_t>(options.threads);
  const auto shareOf = [&](int thread) {
    const std::size_t first = share * static_cast<std::size_t>(thread);
    const bool is_last = thread + 1 == options.threads;
    return std::pair(memory.words().subspan(first, is_last ? memory.words().size() - first : share), first);
  };
  std::atomic<std::uint64_t> errors = 0;
  do {
    (void)crew.secondsOf([&](int thread) {
      const auto [words, first] = shareOf(thread);
      fillPattern(words, result.rounds, first);
    });
    (void)crew.secondsOf([&](int thread) {
      const auto [words, first] = shareOf(thread);
      errors += wrongWords(words, result.rounds, first);
    });
    ++result.rounds;
  } while (elapsed_s() < options.seconds);
  result.errors = errors;
  const std::size_t bytes = static_cast<std::size_t>(result.mib) * kMiB;
  result.tested_GB = static_cast<std::uint64_t>(result.rounds) * bytes / 1'000'000'000;
  result.covered_percent = 100 * static_cast<double>(bytes) / static_cast<double>(bytesOf(_SC_PHYS_PAGES));
  return result;
}

}  // namespace probe
