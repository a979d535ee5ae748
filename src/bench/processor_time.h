#pragma once

#include <optional>
#include <string_view>
#include <vector>

#include "bench/bench_connection.h"

namespace bench {

/// How long the processors were busy since the machine started, in seconds of one core.
struct ProcessorTime {
  double busy_s = 0;
  double all_s = 0;                              ///< busy and idle together
  std::vector<std::pair<double, double>> cores;  ///< busy and all, of each core
};

/// From the text of /proc/stat; nothing where it is not that.
[[nodiscard]] std::optional<ProcessorTime> processorTimeFrom(std::string_view text);

/// Of a bench at this moment; nothing where it does not say.
[[nodiscard]] std::optional<ProcessorTime> processorTime(const BenchConnection& bench);

/// Processor time that this program has used, and that every child of it that has ended, with theirs.
[[nodiscard]] double ownProcessorSeconds();
[[nodiscard]] double childrensProcessorSeconds();

/// How busy other programs kept the machine between two moments, in percent of one core, when our own and those that we
/// started used `own_s` of processor time. Nothing where less than half a second passed in
/// between: the kernel counts in hundredths.
[[nodiscard]] std::optional<double> othersBusyPercent(const ProcessorTime& before, const ProcessorTime& after,
                                                      double own_s);

}  // namespace bench
