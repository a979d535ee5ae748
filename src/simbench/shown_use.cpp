#include "simbench/shown_use.h"

#include <algorithm>
#include <cmath>
#include <fstream>

#include <fmt/format.h>

#include "simbench/machine.h"
#include "simbench/random.h"

namespace simbench {
namespace {

constexpr double kAwakePercent = 40;  // never so little that the board's link would sleep
constexpr double kIdleW = 28;
constexpr double kWattsAPercent = 1.4;
constexpr double kUseSd = 0.006;  // ln scale, from pass to pass
constexpr double kMebibyte = 1024 * 1024;

}  // namespace

void showUse(const BenchState& state, const PassResult& pass) {
  const Machine machine = state.machine();
  Random random(mixed(state.truth.seed, static_cast<std::uint64_t>(state.runs), 0x05ED));
  const auto put = [&](const std::string& file, double value) {
    std::ofstream(state.folder + "/machine/" + file) << fmt::format("{:.0f}\n", value);
  };
  const auto about = [&](double value) { return value * std::exp(random.normal(kUseSd)); };
  const std::string card = "sys/bus/pci/devices/0000:03:00.0/";
  const double busy = std::clamp(about(pass.graphics_busy_percent), kAwakePercent, 99.0);
  put(card + "gpu_busy_percent", busy);
  constexpr double kMicro = 1e6;
  put(card + "hwmon/hwmon2/power1_average", kMicro * about(kIdleW + kWattsAPercent * busy));
  put(card + "mem_info_vram_used", kMebibyte * about(machine.graphics_memory_mib));
  std::ofstream(state.folder + "/machine/proc/meminfo") << meminfoText(machine, about(machine.memory_in_use_mib));
  const double large_khz = machine.boost ? 4.9e6 : 3.7e6;
  for (int core = 0; core < machine.cores; ++core) {
    const bool is_small = core >= machine.cores - machine.small_cores;
    put(fmt::format("sys/devices/system/cpu/cpu{}/cpufreq/scaling_cur_freq", core),
        about(is_small ? 0.76 * large_khz : large_khz));
  }
}

}  // namespace simbench
