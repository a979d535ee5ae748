#pragma once

#include <cstdint>
#include <random>

#include <boost/random/exponential_distribution.hpp>
#include <boost/random/normal_distribution.hpp>

namespace simbench {

/// One 64-bit number from a few: the same inputs give the same stream on every machine (splitmix64, Steele et al.
/// 2014).
inline std::uint64_t mixed(std::uint64_t a, std::uint64_t b, std::uint64_t c) {
  std::uint64_t x = a;
  for (const std::uint64_t next : {b, c, std::uint64_t{0x9E3779B97F4A7C15}}) {
    x += 0x9E3779B97F4A7C15 + next;
    x = (x ^ (x >> 30)) * 0xBF58476D1CE4E5B9;
    x = (x ^ (x >> 27)) * 0x94D049BB133111EB;
    x ^= x >> 31;
  }
  return x;
}

/// Seeded draws. Boost's distributions, because the standard library's differ from one implementation to the next.
class Random {
 public:
  explicit Random(std::uint64_t seed) : engine_(seed) {}
  double normal(double sd) { return sd * boost::random::normal_distribution<double>()(engine_); }
  /// Waiting time with the given mean.
  double waiting(double mean) { return boost::random::exponential_distribution<double>(1.0 / mean)(engine_); }

 private:
  std::mt19937_64 engine_;
};

}  // namespace simbench
