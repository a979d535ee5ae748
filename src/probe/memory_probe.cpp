#include "probe/memory_probe.h"

#include <cstdint>
#include <cstring>
#include <memory>
#include <new>
#include <numeric>
#include <random>
#include <thread>

namespace probe {
namespace {

using Words = std::unique_ptr<std::uint64_t[]>;

constexpr std::size_t kMiB = 1U << 20;
constexpr std::size_t kLineWords = 8;  // a load a cache line: neighbours would come for free

// Each thread works on its share; all begin together, and the slowest counts.
template <class Share>
double secondsOfThreads(int threads, const Share& share) {
  return secondsOf([&] {
    std::vector<std::thread> others;
    for (int i = 1; i < threads; ++i) others.emplace_back([&share, i] { share(i); });
    share(0);
    for (std::thread& other : others) other.join();
  });
}

std::uint64_t sumOf(const std::uint64_t* words, std::size_t count) {
  std::uint64_t sums[8] = {};  // eight chains, so that no addition waits for the one before
  for (std::size_t i = 0; i + 8 <= count; i += 8)
    for (std::size_t k = 0; k < 8; ++k) sums[k] += words[i + k];
  return std::accumulate(std::begin(sums), std::end(sums), std::uint64_t{0});
}

// One cycle through all lines in random order (Sattolo 1986): no prefetcher can guess the next one.
void makeChain(std::uint64_t* words, std::size_t lines) {
  std::vector<std::uint32_t> order(lines);
  std::iota(order.begin(), order.end(), 0U);
  std::mt19937 engine(20260211);
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

core::Result<MemoryReadings> measureMemory(const MemoryOptions& options) {
  if (options.mib < 16 || options.mib > 65536 || options.threads < 1 || options.threads > 1024 || options.repeats < 1 ||
      options.repeats > 1000)
    return core::Error{core::ErrorKind::OutOfRange, "the options do not fit", "memory",
                       "Use --mib 16 to 65536, --threads 1 to 1024, --repeats 1 to 1000"};
  const auto threads = static_cast<std::size_t>(options.threads);
  const std::size_t share = static_cast<std::size_t>(options.mib) * kMiB / 8 / threads / kLineWords * kLineWords;
  const std::size_t count = share * threads;
  const Words source(new (std::nothrow) std::uint64_t[count]);
  const Words target(new (std::nothrow) std::uint64_t[count]);
  if (!source || !target)
    return core::Error{core::ErrorKind::TooFew, "there is not so much memory free", "memory", "Use fewer --mib"};
  std::memset(source.get(), 1, count * 8);  // touched: a page that was never written is no memory
  std::memset(target.get(), 2, count * 8);

  MemoryReadings readings;
  const double gigabytes = static_cast<double>(count) * 8 / 1e9;
  for (int i = 0; i < options.repeats; ++i) {
    readings.read_GBps.values.push_back(gigabytes / secondsOfThreads(options.threads, [&](int t) {
                                          std::uint64_t sum =
                                              sumOf(source.get() + static_cast<std::size_t>(t) * share, share);
                                          keep(sum);
                                        }));
    readings.write_GBps.values.push_back(gigabytes / secondsOfThreads(options.threads, [&](int t) {
                                           std::uint64_t* begin = target.get() + static_cast<std::size_t>(t) * share;
                                           std::memset(begin, i, share * 8);
                                           keep(begin);
                                         }));
    readings.copy_GBps.values.push_back(2 * gigabytes / secondsOfThreads(options.threads, [&](int t) {
                                          std::uint64_t* begin = target.get() + static_cast<std::size_t>(t) * share;
                                          std::memcpy(begin, source.get() + static_cast<std::size_t>(t) * share,
                                                      share * 8);
                                          keep(begin);
                                        }));
  }
  makeChain(source.get(), count / kLineWords);
  for (int i = 0; i < options.repeats; ++i) {
    readings.latency_ns.values.push_back(latencyNs(source.get()));
    readings.clock_GHz.values.push_back(clockGHz());
  }
  return readings;
}

}  // namespace probe
