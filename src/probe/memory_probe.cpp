#include "probe/memory_probe.h"

#include <algorithm>
#include <cstdint>
#include <cstring>
#include <numeric>
#include <random>
#include <vector>

#include <fmt/format.h>

#include "probe/crew.h"
#include "probe/page_memory.h"

namespace probe {
namespace {

constexpr std::size_t kMiB = 1U << 20;
constexpr std::size_t kLineWords = 8;  // a load a cache line: neighbours would come for free

// One cycle through all lines in random order (Sattolo 1986): no prefetcher can guess the next one. Another seed,
// another path.
void makeChain(std::uint64_t* words, std::size_t lines, unsigned seed) {
  std::vector<std::uint32_t> order(lines);
  std::iota(order.begin(), order.end(), 0U);
  std::mt19937 engine(seed);
  for (std::size_t i = lines - 1; i > 0; --i)
    std::swap(order[i], order[std::uniform_int_distribution<std::size_t>(0, i - 1)(engine)]);
  for (std::size_t i = 0; i < lines; ++i) words[i * kLineWords] = order[i] * kLineWords;
}

double latencyNs(const std::uint64_t* words) {
  constexpr int kSteps = 1 << 20;
  std::uint64_t at = 0;
  const double seconds = secondsOf([&] {
    for (int i = 0; i < kSteps; ++i) at = words[at];
    keep(at);
  });
  return seconds * 1e9 / kSteps;
}

// An addition of two registers takes one cycle on every processor of the last decades; the barrier keeps each one in
// the chain. Of a constant it may take none: newer ones do that while they rename registers, so the step is no
// constant.
double clockGHz() {
  constexpr int kSteps = 1 << 24;
  std::uint64_t value = 1;
  std::uint64_t step = 3;
  keep(step);
  const double seconds = secondsOf([&] {
    for (int i = 0; i < kSteps; i += 16) {
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
      value += step;
      keep(value);
    }
  });
  return kSteps / seconds / 1e9;
}

}  // namespace

// A sanitizer in it would be what is measured.
#define PLAIN __attribute__((no_sanitize("address", "undefined")))

// Compiled for each width of vector that a processor may have; the loader takes the widest. The compiler does the rest.
// The second compiler knows no such copies: what it builds is for the sanitizers, not for figures.
#ifdef __clang__
#define FOR_EACH_WIDTH
#else
#define FOR_EACH_WIDTH __attribute__((target_clones("avx512f", "avx2", "default"), optimize("O3")))
#endif

FOR_EACH_WIDTH PLAIN std::uint64_t sumOf(const std::uint64_t* words, std::size_t count) {
  std::uint64_t sum = 0;
  for (std::size_t i = 0; i < count; ++i) sum += words[i];
  return sum;
}

int leastMemoryMiB() {
  constexpr int kBeyondCache = 4;
  return std::max(16, kBeyondCache * largestCacheMiB());
}

core::Result<MemoryReadings> measureMemory(const MemoryOptions& options) {
  constexpr int kUsual = 256;
  const int mib = options.mib == 0 ? std::max(kUsual, leastMemoryMiB()) : options.mib;
  if (mib < leastMemoryMiB() || mib > 65536 || options.threads < 1 || options.threads > 1024 || options.repeats < 1 ||
      options.repeats > 1000)
    return core::Error{core::ErrorKind::OutOfRange, "the options do not fit", "memory",
                       fmt::format("Use --mib {} to 65536 (a cache here holds {} MiB), --threads 1 to 1024, "
                                   "--repeats 1 to 1000",
                                   leastMemoryMiB(), largestCacheMiB())};
  const auto threads = static_cast<std::size_t>(options.threads);
  const std::size_t share = static_cast<std::size_t>(mib) * kMiB / 8 / threads / kLineWords * kLineWords;
  const std::size_t count = share * threads;
  const PageMemory source(count * 8, options.is_huge);
  const PageMemory target(count * 8, options.is_huge);
  if (source.words().empty() || target.words().empty())
    return core::Error{core::ErrorKind::TooFew, "there is not so much memory free", "memory", "Use fewer --mib"};
  std::uint64_t* from = source.words().data();
  std::uint64_t* to = target.words().data();

  MemoryReadings readings;
  readings.mib = mib;
  readings.huge_page_percent = std::min(source.hugePercent(), target.hugePercent());
  Crew crew(options.threads);
  const double gigabytes = static_cast<double>(count) * 8 / 1e9;
  for (int i = 0; i < options.repeats; ++i) {
    readings.read_GBps.values.push_back(gigabytes / crew.secondsOf([&](int t) {
      std::uint64_t sum = sumOf(from + static_cast<std::size_t>(t) * share, share);
      keep(sum);
    }));
    readings.copied_GBps.values.push_back(gigabytes / crew.secondsOf([&](int t) {
      std::uint64_t* begin = to + static_cast<std::size_t>(t) * share;
      std::memcpy(begin, from + static_cast<std::size_t>(t) * share, share * 8);
      keep(begin);
    }));
  }
  for (int i = 0; i < options.repeats; ++i) {
    makeChain(from, count / kLineWords, 20260211U + static_cast<unsigned>(i));
    readings.latency_ns.values.push_back(latencyNs(from));
    readings.clock_GHz.values.push_back(clockGHz());
  }
  return readings;
}

}  // namespace probe
