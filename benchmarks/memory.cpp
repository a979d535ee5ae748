// Does the memory probe read as fast as plain vector code does on this machine? Both in turn, by one thread and by all.
//   memory_benchmark [ROUNDS]
#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <numeric>

#include <fmt/format.h>

#include "core/values/measurements.h"
#include "probe/crew.h"
#include "probe/memory_probe.h"
#include "probe/page_memory.h"

namespace {

// What a compiler makes of the plainest loop, for exactly this processor.
std::uint64_t plainSum(const std::uint64_t* words, std::size_t count) {
  return std::accumulate(words, words + count, std::uint64_t{0});
}

using Sum = std::uint64_t (*)(const std::uint64_t*, std::size_t);

double rateOf(probe::Crew& crew, Sum sum, std::span<const std::uint64_t> words) {
  const std::size_t share = words.size() / static_cast<std::size_t>(crew.threads());
  return static_cast<double>(words.size_bytes()) / 1e9 / crew.secondsOf([&](int which) {
    std::uint64_t total = sum(words.data() + share * static_cast<std::size_t>(which), share);
    probe::keep(total);
  });
}

}  // namespace

int main(int argc, char** argv) {
  const int rounds = argc > 1 ? std::atoi(argv[1]) : 40;
  const probe::PageMemory memory(static_cast<std::size_t>(std::max(512, probe::leastMemoryMiB())) << 20U, true);
  for (const int threads : {1, probe::usableProcessors()}) {
    probe::Crew crew(threads);
    core::Measurements of_probe;
    core::Measurements plain;
    core::Measurements ratio;
    for (int i = 0; i < rounds; ++i) {
      const bool is_probe_first = i % 2 == 0;
      const double first = rateOf(crew, is_probe_first ? probe::sumOf : plainSum, memory.words());
      const double second = rateOf(crew, is_probe_first ? plainSum : probe::sumOf, memory.words());
      of_probe.values.push_back(is_probe_first ? first : second);
      plain.values.push_back(is_probe_first ? second : first);
      ratio.values.push_back(of_probe.values.back() / plain.values.back());
    }
    fmt::print("{} thread(s): probe {:.2f} GB/s, plain loop {:.2f} GB/s, ratio {:.3f} ({:.3f} to {:.3f} in {} rounds)\n",
               threads, of_probe.median(), plain.median(), ratio.median(), ratio.lowest(), ratio.highest(), rounds);
  }
  return 0;
}
