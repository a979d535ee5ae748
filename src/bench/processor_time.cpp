#include "bench/processor_time.h"

#include <sys/resource.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <sstream>

#include "core/values/number_text.h"

namespace bench {
namespace {

// user, nice, system, idle, iowait, irq, softirq, steal: idle and iowait are rest. What a guest uses is in user
// already.
std::optional<std::pair<double, double>> busyAndAll(std::istringstream& fields) {
  constexpr std::size_t kFields = 8;
  constexpr std::size_t kIdle = 3;
  constexpr std::size_t kWaiting = 4;
  std::array<double, kFields> ticks{};
  for (double& tick : ticks) {
    std::string word;
    fields >> word;
    const auto number = core::numberOf(word);
    if (!number) return std::nullopt;
    tick = *number;
  }
  const double per_second = static_cast<double>(::sysconf(_SC_CLK_TCK));
  double all = 0;
  for (const double tick : ticks) all += tick;
  return std::pair((all - ticks[kIdle] - ticks[kWaiting]) / per_second, all / per_second);
}

double secondsUsedBy(int who) {
  rusage usage{};
  ::getrusage(who, &usage);
  const auto seconds = [](const timeval& t) {
    return static_cast<double>(t.tv_sec) + static_cast<double>(t.tv_usec) / 1e6;
  };
  return seconds(usage.ru_utime) + seconds(usage.ru_stime);
}

}  // namespace

double ownProcessorSeconds() { return secondsUsedBy(RUSAGE_SELF); }
double childrensProcessorSeconds() { return secondsUsedBy(RUSAGE_CHILDREN); }

std::optional<ProcessorTime> processorTimeFrom(std::string_view text) {
  std::istringstream lines{std::string(text)};
  ProcessorTime time;
  bool has_sum = false;
  for (std::string line; std::getline(lines, line) && line.starts_with("cpu");) {
    std::istringstream fields(line);
    std::string name;
    fields >> name;
    const auto pair = busyAndAll(fields);
    if (!pair) return std::nullopt;
    if (name == "cpu") {
      std::tie(time.busy_s, time.all_s) = *pair;
      has_sum = true;
    } else {
      time.cores.push_back(*pair);
    }
  }
  return has_sum ? std::optional(std::move(time)) : std::nullopt;
}

std::optional<ProcessorTime> processorTime(const BenchConnection& bench) {
  const auto text = bench.readFile("/proc/stat");
  return text ? processorTimeFrom(*text) : std::nullopt;
}

std::optional<double> othersBusyPercent(const ProcessorTime& before, const ProcessorTime& after, double own_s) {
  const auto cores = static_cast<double>(std::max<std::size_t>(1, after.cores.size()));
  const double elapsed_s = (after.all_s - before.all_s) / cores;
  constexpr double kShortest = 0.5;
  if (elapsed_s < kShortest) return std::nullopt;
  return std::max(0.0, 100 * (after.busy_s - before.busy_s - own_s) / elapsed_s);
}

}  // namespace bench
