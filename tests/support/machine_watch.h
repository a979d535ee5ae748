// How much of this machine, which may be shared, went to others while a test measured in earnest: other programs, and
// the host that lends its processors elsewhere. Only an undisturbed measurement says something about the program.
#pragma once

#include <gtest/gtest.h>

#include "bench/local_bench.h"
#include "bench/processor_time.h"

namespace support {

class MachineWatch {
 public:
  /// What others used since the watch began, in percent of one core.
  [[nodiscard]] double othersPercent() const {
    const auto after = bench::processorTime(machine_);
    return before_ && after ? bench::othersBusyPercent(*before_, *after, ownSeconds() - own_before_s_).value_or(0) : 0;
  }
  static constexpr double kUndisturbedPercent = 10;

 private:
  static double ownSeconds() { return bench::ownProcessorSeconds() + bench::childrensProcessorSeconds(); }

  bench::LocalBench machine_;
  std::optional<bench::ProcessorTime> before_ = bench::processorTime(machine_);
  double own_before_s_ = ownSeconds();
};

}  // namespace support

/// Leaves a test in earnest undecided, with the reason, where others disturbed the measurement.
#define SKIP_IF_DISTURBED(watch)                             \
  if ((watch).othersPercent() > (watch).kUndisturbedPercent) \
  GTEST_SKIP() << "others used " << (watch).othersPercent() << " % of a core, on this machine or on its host"
