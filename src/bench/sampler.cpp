#include "bench/sampler.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <limits>
#include <memory>
#include <utility>

#include <fmt/format.h>

#include "bench/capture_parts.h"
#include "bench/graphics_use.h"
#include "bench/sysfs_text.h"
#include "core/machine/device_path.h"
#include "core/values/number_text.h"

namespace bench {
namespace {

using core::Channel;
using core::ChannelRole;

constexpr double kNotRead = std::numeric_limits<double>::quiet_NaN();

// "cpu0/thermal_throttle/..." and "cpufreq": one core stands for all, since each file costs a core's attention.
constexpr const char* kFirstCore = "/sys/devices/system/cpu/cpu0/";

// "some avg10=0.12 avg60=..." of a pressure file.
std::optional<double> pressureOf(const std::string& text) {
  const auto at = text.find("avg10=");
  return at == std::string::npos ? std::nullopt : core::leadingNumber(text.substr(at + 6));
}

// The active line of a table of clocks: "1: 2400Mhz *".
std::optional<double> activeClock(const std::string& text) {
  const auto star = text.find('*');
  if (star == std::string::npos) return std::nullopt;
  const auto colon = text.rfind(':', star);
  return colon == std::string::npos ? std::nullopt : core::leadingNumber(text.substr(colon + 1));
}

}  // namespace

Sampler::Sampler(const BenchConnection& bench) : bench_(bench), before_(processorTime(bench)) {
  findMonitors();
  findProcessor();
  findMemory();
  findGraphics();
  findUnread();
  samples_.channels.push_back({"sampling", "ms", ChannelRole::Cost, "Iron Lever", {}, {}});
}

std::string Sampler::text(const std::string& path) const {
  const auto read = bench_.readFile(path);
  return read ? trimmed(*read) : std::string();
}

std::vector<std::string> Sampler::list(const std::string& path) const {
  auto names = bench_.listFolder(path);
  return names ? *std::move(names) : std::vector<std::string>();
}

void Sampler::add(Channel channel, Reading reading) {
  samples_.channels.push_back(std::move(channel));
  readings_.push_back(std::move(reading));
}

// Only what can be read now becomes a channel: a file that needs root would be an empty column.
void Sampler::addFile(Channel channel, const std::string& path, double divisor) {
  if (!wholeNumber(text(path))) return;
  add(std::move(channel), [this, path, divisor]() -> std::optional<double> {
    const auto number = wholeNumber(text(path));
    return number ? std::optional(static_cast<double>(*number) / divisor) : std::nullopt;
  });
}

void Sampler::findMonitors() {
  const std::string base = "/sys/class/hwmon";
  for (const std::string& monitor : list(base)) {
    const std::string path = base + "/" + monitor + "/";
    const std::string chip = text(path + "name");
    for (const std::string& file : list(base + "/" + monitor)) {
      if (!file.ends_with("_input") && !file.ends_with("_average")) continue;
      const std::string sensor = file.substr(0, file.rfind('_'));
      const std::string label = text(path + sensor + "_label");
      const std::string name = chip + " " + (label.empty() ? sensor : label);
      if (sensor.starts_with("temp")) {
        const auto critical = wholeNumber(text(path + sensor + "_crit"));
        const bool is_sound = critical && *critical >= 30000 && *critical <= 150000;  // some chips leave nonsense there
        addFile({name,
                 "°C",
                 ChannelRole::Temperature,
                 monitor,
                 is_sound ? std::optional(static_cast<double>(*critical) / 1000) : std::nullopt,
                 {}},
                path + file, 1000);
      } else if (sensor.starts_with("fan")) {
        addFile({name, "rpm", ChannelRole::Fan, monitor, {}, {}}, path + file);
      } else if (sensor.starts_with("power")) {
        addFile({name, "W", ChannelRole::Power, monitor, {}, {}}, path + file, 1e6);
      } else if (sensor.starts_with("freq")) {
        addFile({name, "MHz", ChannelRole::Clock, monitor, {}, {}}, path + file, 1e6);
      }
    }
  }
}

void Sampler::findProcessor() {
  if (before_) {
    now_ = before_;
    const auto share = [](double busy, double all) { return all > 0 ? std::optional(100 * busy / all) : std::nullopt; };
    add({"processor load", "%", ChannelRole::Load, "processor", {}, {}}, [this, share]() -> std::optional<double> {
      return before_ && now_ ? share(now_->busy_s - before_->busy_s, now_->all_s - before_->all_s) : std::nullopt;
    });
    add({"busiest core", "%", ChannelRole::Load, "processor", {}, {}}, [this, share]() -> std::optional<double> {
      if (!before_ || !now_ || before_->cores.size() != now_->cores.size()) return std::nullopt;
      std::optional<double> most;
      for (std::size_t i = 0; i < now_->cores.size(); ++i)
        if (const auto busy =
                share(now_->cores[i].first - before_->cores[i].first, now_->cores[i].second - before_->cores[i].second))
          most = std::max(most.value_or(0), *busy);
      return most;
    });
  }
  findClocks();
  findEnergy();
  for (const char* counter : {"core_throttle_count", "package_throttle_count"})
    addFile({std::string("processor ") + counter, "times", ChannelRole::Throttle, "processor", {}, {}},
            std::string(kFirstCore) + "thermal_throttle/" + counter);
}

// Where there are two kinds of cores each has its clock; one core stands for its kind.
void Sampler::findClocks() {
  const auto add_clock = [&](const std::string& name, int core) {
    addFile({name, "MHz", ChannelRole::Clock, "processor", {}, {}},
            fmt::format("/sys/devices/system/cpu/cpu{}/cpufreq/scaling_cur_freq", core), 1000);
  };
  const auto first_of = [&](const char* kind) -> std::optional<int> {
    const auto number = core::leadingNumber(text(std::string("/sys/bus/event_source/devices/") + kind + "/cpus"));
    return number ? std::optional(static_cast<int>(*number)) : std::nullopt;
  };
  const auto large = first_of("cpu_core");
  const auto small = first_of("cpu_atom");
  if (!large || !small) return add_clock("processor clock", 0);
  add_clock("clock of the large cores", *large);
  add_clock("clock of the small cores", *small);
}

// Counters of energy, in microjoules, of the processor's package and what it counts apart. Kernels let root read them
// alone.
void Sampler::findEnergy() {
  const std::string base = "/sys/class/powercap";
  for (const std::string& zone : list(base)) {
    const std::string path = base + "/" + zone + "/";
    if (!zone.starts_with("intel-rapl") || !wholeNumber(text(path + "energy_uj"))) continue;
    const auto most = wholeNumber(text(path + "max_energy_range_uj"));
    add({"power of " + text(path + "name"), "W", ChannelRole::Power, zone, {}, {}},
        [this, path, range = most.value_or(0),
         before = std::optional<std::pair<double, std::int64_t>>()]() mutable -> std::optional<double> {
          const auto now = wholeNumber(text(path + "energy_uj"));
          if (!now) return std::nullopt;
          const auto was = std::exchange(before, std::pair(at_s_, *now));
          if (!was || at_s_ <= was->first) return std::nullopt;
          std::int64_t used = *now - was->second;
          if (used < 0) used += range;         // it began anew at its end
          if (used <= 0) return std::nullopt;  // it stands still: nothing uses nothing
          constexpr double kMicro = 1e6;
          return static_cast<double>(used) / kMicro / (at_s_ - was->first);
        });
  }
}

void Sampler::findMemory() {
  const auto in_use = [this]() -> std::optional<double> {
    const std::string info = text("/proc/meminfo");
    const auto total = meminfoBytes(info, "MemTotal");
    const auto available = meminfoBytes(info, "MemAvailable");
    constexpr double kMiB = 1024 * 1024;
    if (!total || !available || *available > *total) return std::nullopt;
    return static_cast<double>(*total - *available) / kMiB;
  };
  if (in_use()) add({"memory in use", "MiB", ChannelRole::Memory, "memory", {}, {}}, in_use);
  for (const char* resource : {"cpu", "io", "memory"}) {
    const std::string path = std::string("/proc/pressure/") + resource;
    if (pressureOf(text(path)))
      add({std::string("waiting for ") + resource, "%", ChannelRole::Pressure, resource, {}, {}},
          [this, path] { return pressureOf(text(path)); });
  }
}

void Sampler::findGraphics() {
  const std::string devices = "/sys/bus/pci/devices";
  for (const std::string& address : list(devices)) {
    const std::string path = devices + "/" + address + "/";
    const bool is_graphics = text(path + "class").starts_with("0x03");
    // Asking a sleeping device wakes it.
    if (is_graphics && text(path + "power/runtime_status") != "suspended") findDevice(address);
  }
}

std::string Sampler::slotEndOf(const std::string& address) const {
  core::Capture capture;
  FactReader reader(bench_, capture);
  capturePath(reader, address);
  captureUsb4(reader);
  const core::DevicePath path = core::devicePath(capture, address);
  const core::Hop* slot = path.slotHop();
  return slot ? slot->up : address;
}

void Sampler::findDevice(const std::string& address) {
  const std::string path = "/sys/bus/pci/devices/" + address + "/";
  addFile({"graphics load", "%", ChannelRole::Load, address, {}, {}}, path + "gpu_busy_percent");
  constexpr double kMiB = 1024 * 1024;
  const auto memory_bytes = wholeNumber(text(path + "mem_info_vram_total"));
  addFile({"graphics memory in use",
           "MiB",
           ChannelRole::Memory,
           address,
           memory_bytes ? std::optional(static_cast<double>(*memory_bytes) / kMiB) : std::nullopt,
           {}},
          path + "mem_info_vram_used", kMiB);
  if (activeClock(text(path + "pp_dpm_sclk")))
    add({"graphics clock", "MHz", ChannelRole::Clock, address, {}, {}},
        [this, path] { return activeClock(text(path + "pp_dpm_sclk")); });
  // The slot's link; a card with a switch of its own has another one behind it, which never changes.
  const std::string slot = "/sys/bus/pci/devices/" + slotEndOf(address) + "/";
  if (core::leadingNumber(text(slot + "current_link_speed")))
    add({"link rate", "GT/s", ChannelRole::Link, address, {}, {}},
        [this, slot] { return core::leadingNumber(text(slot + "current_link_speed")); });
  addFile({"link lanes", "lanes", ChannelRole::Link, address, {}, {}}, slot + "current_link_width");
  for (const char* counter : {"aer_dev_correctable", "aer_dev_nonfatal"}) {
    const std::string file = path + counter;
    const auto total = [this, file]() -> std::optional<double> {
      for (const auto& [name, count] : counterLines(text(file)))
        if (name.starts_with("TOTAL_")) return static_cast<double>(count);
      return std::nullopt;
    };
    if (total())
      add({std::string("link errors, ") + (counter + 8), "errors", ChannelRole::LinkErrors, address, {}, {}}, total);
  }
}

void Sampler::addBeforeCost(Channel channel, Reading reading) {
  samples_.channels.insert(samples_.channels.end() - 1, std::move(channel));
  readings_.push_back(std::move(reading));
}

// What a sum that only grows has grown by since the sample before, of each second in percent.
static auto shareOf(std::function<std::optional<double>()> seconds, const double& at_s) {
  return [seconds = std::move(seconds), &at_s,
          before = std::optional<std::pair<double, double>>()]() mutable -> std::optional<double> {
    const auto used = seconds();
    if (!used) return std::nullopt;
    const auto was = std::exchange(before, std::pair(at_s, *used));
    if (!was || at_s <= was->first || *used < was->second) return std::nullopt;
    return 100 * (*used - was->second) / (at_s - was->first);
  };
}

void Sampler::addProcessorTimeOf(const std::string& whom, std::function<double()> processor_s) {
  addBeforeCost({"core time of " + whom, "%", ChannelRole::Load, "processor", {}, {}},
                shareOf([used = std::move(processor_s)] { return std::optional(used()); }, at_s_));
}

void Sampler::addGraphicsUseOf(std::function<std::vector<pid_t>()> processes) {
  // Both are asked of one look: the first of the two takes it. A browser has thousands of files open, so that a look
  // each second would cost more than watching a pass may.
  constexpr double kSecondsBetweenLooks = 5;
  const auto seen = std::make_shared<std::optional<GraphicsUse>>();
  const auto look = [this, seen, processes = std::move(processes),
                     last_s = -kSecondsBetweenLooks]() mutable -> std::optional<double> {
    seen->reset();
    if (at_s_ - last_s < kSecondsBetweenLooks) return std::nullopt;
    last_s = at_s_;
    *seen = graphicsUse(processes());
    return *seen ? (*seen)->busy_s : std::nullopt;
  };
  addBeforeCost({"graphics time of pass", "%", ChannelRole::Load, "graphics", {}, {}}, shareOf(look, at_s_));
  addBeforeCost({"graphics memory of pass", "MiB", ChannelRole::Memory, "graphics", {}, {}},
                [seen]() -> std::optional<double> {
                  constexpr double kMiB = 1024 * 1024;
                  if (!*seen || !(*seen)->memory_bytes) return std::nullopt;
                  return *(*seen)->memory_bytes / kMiB;
                });
}

// People look for it in vain otherwise: what this bench could show and does not, in words.
void Sampler::findUnread() {
  const auto has = [&](const std::function<bool(const Channel&)>& is) {
    return std::any_of(samples_.channels.begin(), samples_.channels.end(), is);
  };
  const auto of = [](ChannelRole role) { return [role](const Channel& one) { return one.role == role; }; };
  const auto called = [](const char* name) {
    return [name](const Channel& one) { return one.name.starts_with(name); };
  };
  const auto counters = bench_.readFile("/sys/class/powercap/intel-rapl:0/energy_uj");
  const bool is_roots = !counters && counters.error().kind == core::ErrorKind::Denied;
  const char* const none = "the kernel shows none";
  const char* const no_clock = "the kernel shows no clock";
  const auto devices = list("/sys/bus/pci/devices");
  const bool has_graphics = std::any_of(devices.begin(), devices.end(), [&](const std::string& address) {
    return text("/sys/bus/pci/devices/" + address + "/class").starts_with("0x03");
  });
  const char* const of_graphics = has_graphics ? "its driver does not tell" : "there is no graphics device";
  const auto missing = [&](bool is_read, const char* what, const char* reason) {
    if (!is_read) samples_.unread.push_back({what, reason});
  };
  missing(has(called("power of")), "power of the processor",
          is_roots ? "only root may read its energy counters" : "the kernel shows no energy counter of it");
  missing(has(of(ChannelRole::Temperature)), "temperatures", none);
  missing(has(of(ChannelRole::Fan)), "fans", none);
  missing(has(called("processor clock")) || has(called("clock of the large")), "clock of the processor", no_clock);
  missing(has(called("graphics load")), "graphics load", of_graphics);
  missing(has(called("graphics memory in use")), "graphics memory in use", of_graphics);
  missing(has(called("graphics clock")), "graphics clock", of_graphics);
  missing(has(of(ChannelRole::Throttle)), "how often a limit set in", none);
}

void Sampler::take(double at_s) {
  using Clock = std::chrono::steady_clock;
  const auto begin = Clock::now();
  now_ = processorTime(bench_);
  at_s_ = at_s;
  samples_.at_s.push_back(at_s);
  for (std::size_t i = 0; i < readings_.size(); ++i)
    samples_.channels[i].values.push_back(readings_[i]().value_or(kNotRead));
  if (now_) before_ = now_;
  samples_.channels.back().values.push_back(std::chrono::duration<double, std::milli>(Clock::now() - begin).count());
}

std::optional<double> hottestC(const BenchConnection& bench) {
  Sampler sampler(bench);
  sampler.take(0);
  std::optional<double> hottest;
  for (const Channel& channel : sampler.samples().channels)
    if (channel.role == ChannelRole::Temperature && std::isfinite(channel.values.back()))
      hottest = std::max(hottest.value_or(channel.values.back()), channel.values.back());
  return hottest;
}

}  // namespace bench
