#include "probe/compute_probe.h"

#include <atomic>
#include <thread>

namespace probe {
namespace {

constexpr std::int64_t kPiece = 250000;  // small enough that a slow core does not hold up the end

std::uint64_t scrambled(std::uint64_t x) {
  x = (x ^ (x >> 30)) * 0xBF58476D1CE4E5B9;
  x = (x ^ (x >> 27)) * 0x94D049BB133111EB;
  return x ^ (x >> 31);
}

std::uint64_t workOn(std::int64_t piece) {
  std::uint64_t sum = 0;
  for (std::int64_t i = 0; i < kPiece; ++i) sum += scrambled(static_cast<std::uint64_t>(piece * kPiece + i));
  return sum;
}

std::uint64_t shareOut(std::int64_t pieces, int threads) {
  std::atomic<std::int64_t> next{0};
  std::atomic<std::uint64_t> total{0};
  const auto take = [&] {
    std::uint64_t own = 0;
    for (std::int64_t piece = next++; piece < pieces; piece = next++) own += workOn(piece);
    total += own;
  };
  std::vector<std::thread> others;
  for (int i = 1; i < threads; ++i) others.emplace_back(take);
  take();
  for (std::thread& other : others) other.join();
  return total;
}

}  // namespace

core::Result<ComputeReadings> measureCompute(const ComputeOptions& options) {
  if (options.threads < 1 || options.threads > 1024 || options.repeats < 1 || options.repeats > 1000 ||
      options.million_steps < 1 || options.million_steps > 1000000)
    return core::Error{core::ErrorKind::OutOfRange, "the options do not fit", "compute",
                       "Use --threads 1 to 1024, --repeats 1 to 1000, --million-steps 1 to 1000000"};
  ComputeReadings readings;
  const std::int64_t pieces = options.million_steps * 1000000 / kPiece;
  for (int i = 0; i < options.repeats; ++i)
    readings.seconds.values.push_back(secondsOf([&] { readings.checksum = shareOut(pieces, options.threads); }));
  return readings;
}

}  // namespace probe
