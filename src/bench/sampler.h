#pragma once

#include <sys/types.h>

#include <functional>
#include <string>
#include <vector>

#include "bench/bench_connection.h"
#include "bench/processor_time.h"
#include "core/machine/samples.h"

namespace bench {

/// Samples a bench while a pass runs: temperatures, fans, power, clocks, load, memory in use, the graphics device's
/// link, throttle and link-error counters, pressure. Which files to read is found out once, at the start.
class Sampler {
 public:
  /// `bench` outlives the sampler.
  explicit Sampler(const BenchConnection& bench);
  /// Takes one sample, so many seconds into the pass; it also records what taking it cost.
  void take(double at_s);
  /// Another channel, before the first sample: how much of one core somebody uses, of whom `processor_s` tells the
  /// processor time so far, in seconds.
  void addProcessorTimeOf(const std::string& whom, std::function<double()> processor_s);
  /// Two more, before the first sample: how long a graphics device works for the processes that are there at each
  /// moment, and how much of its memory they hold. Of this machine's own processes.
  void addGraphicsUseOf(std::function<std::vector<pid_t>()> processes);
  [[nodiscard]] const core::Samples& samples() const { return samples_; }

 private:
  using Reading = std::function<std::optional<double>()>;
  void add(core::Channel channel, Reading reading);
  void addFile(core::Channel channel, const std::string& path, double divisor = 1);
  void findMonitors();
  void findProcessor();
  void findClocks();
  void findEnergy();
  void findMemory();
  void findGraphics();
  void findDevice(const std::string& address);
  void findUnread();
  void addBeforeCost(core::Channel channel, Reading reading);
  [[nodiscard]] std::string slotEndOf(const std::string& address) const;
  [[nodiscard]] std::string text(const std::string& path) const;
  [[nodiscard]] std::vector<std::string> list(const std::string& path) const;

  const BenchConnection& bench_;
  core::Samples samples_;
  std::vector<Reading> readings_;  ///< of each channel but the last, which is the cost
  double at_s_ = 0;                ///< of the sample in hand
  std::optional<ProcessorTime> before_;
  std::optional<ProcessorTime> now_;
};

/// The temperature of the hottest part that the bench shows, °C; nothing where it shows none.
[[nodiscard]] std::optional<double> hottestC(const BenchConnection& bench);

}  // namespace bench
