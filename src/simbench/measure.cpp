#include "simbench/measure.h"

#include <algorithm>
#include <cmath>

#include "core/machine/links.h"
#include "simbench/random.h"

namespace simbench {
namespace {

using nlohmann::ordered_json;

// Where measurements plausibly land, as shares of what the settings allow.
constexpr double kReadShare = 0.82;
constexpr double kCopiedShare = 0.35;
constexpr double kCopyShare = 0.86;
constexpr double kCableShare = 0.62;
constexpr double kRepeatSd = 0.005;
constexpr double kCoreSeconds = 0.8;  // one core alone with the fixed work

ordered_json spread(double typical, Random& random) {
  ordered_json values = ordered_json::array();
  for (int i = 0; i < 5; ++i) values.push_back(typical * std::exp(random.normal(kRepeatSd)));
  return {{"values", values}};
}

}  // namespace

core::Result<ordered_json> simulateMeasurement(const BenchState& state, const std::string& what) {
  const Machine machine = state.machine();
  Random random(mixed(state.truth.seed, static_cast<std::uint64_t>(state.boots),
                      0x3EA5 + static_cast<std::uint64_t>(state.runs)));
  if (what == "memory") {
    const double peak = core::memoryPeakGBps(machine.memory_mts, 64 * machine.memory_modules) * machine.yields;
    return ordered_json{{"workload", what},
                        {"read_GBps", spread(kReadShare * peak, random)},
                        {"copied_GBps", spread(kCopiedShare * peak, random)},
                        {"latency_ns", spread(60 + 120000.0 / machine.memory_mts, random)},
                        {"clock_GHz", spread(machine.boost ? 4.8 : 3.6, random)}};
  }
  if (what == "copy") {
    const double link = core::encodedGBps({machine.link_gts, machine.is_external ? 4 : machine.link_width});
    // Two lanes each way; what a cable carries is shared with its own packets.
    const double cable = 2 * machine.cable_gbps / 8;
    const double rate =
        machine.yields * (machine.is_external ? std::min(kCableShare * cable, kCopyShare * link) : kCopyShare * link);
    return ordered_json{{"workload", what},
                        {"is_software", false},
                        {"to_device_GBps", spread(rate, random)},
                        {"to_host_GBps", spread(0.97 * rate, random)}};
  }
  if (what == "compute")
    return ordered_json{{"workload", what}, {"seconds", spread(kCoreSeconds / machine.cores / machine.yields, random)}};
  if (what == "memory-test" && machine.memory_errors > 0)
    return core::Error{
        core::ErrorKind::CommandFailed,
        std::to_string(machine.memory_errors) + " words of memory came back different from what was written",
        "memory-test", "Lower the profile"};
  if (what == "memory-test") return ordered_json{{"workload", what}, {"errors", 0}};
  return core::Error{core::ErrorKind::OutOfRange, "'" + what + "' cannot be measured here", "measure",
                     "Use memory, memory-test, copy or compute"};
}

}  // namespace simbench
