#include "simbench/machine.h"

#include <algorithm>
#include <filesystem>
#include <functional>
#include <map>

#include <fmt/format.h>

#include "core/machine/processor_lists.h"
#include "simbench/fake_tree.h"

namespace simbench {
namespace {

constexpr std::uint64_t kMiB = 1U << 20;
constexpr std::uint64_t kGiB = 1U << 30;

std::string range(int first, int last) {
  return last > first ? fmt::format("{}-{}", first, last) : std::to_string(first);
}

void writeProcessor(FakeTree& tree, const Machine& m) {
  const std::string cpus = "sys/devices/system/cpu";
  const int count = m.cores * m.threads_per_core;
  const std::vector<int> off = core::processorsIn(m.offline);
  const auto is_off = [&](int n) { return std::find(off.begin(), off.end(), n) != off.end(); };
  std::vector<int> on;
  for (int n = 0; n < count; ++n)
    if (!is_off(n)) on.push_back(n);
  tree.lines(cpus,
             {{"online", listText(on)},
              {"offline", m.offline},
              {"present", range(0, count - 1)},
              {"isolated", ""},
              {"smt/control", m.threads_per_core > 1 ? "on" : "notsupported"},
              {"smt/active", m.threads_per_core > 1 ? "1" : "0"},
              {"cpufreq/boost", std::to_string(m.boost)},
              {"amd_pstate/status", "active"},
              {"cpuidle/current_driver", "acpi_idle"},
              {"vulnerabilities/spectre_v1", "Mitigation: usercopy/swapgs barriers and __user pointer sanitization"}});
  std::string info;
  for (const int n : on) {
    const int core = n % m.cores;
    std::vector<int> siblings;
    for (int t = 0; t < m.threads_per_core; ++t)
      if (!is_off(core + t * m.cores)) siblings.push_back(core + t * m.cores);
    const std::string cpu = fmt::format("{}/cpu{}/", cpus, n);
    tree.lines(cpu, {{"topology/core_id", std::to_string(core)},
                     {"topology/physical_package_id", "0"},
                     {"topology/thread_siblings_list", listText(siblings)},
                     {"cache/index3/level", "3"},
                     {"cache/index3/type", "Unified"},
                     {"cache/index3/size", "32768K"}});
    tree.lines(fmt::format("{}/cpufreq/policy{}/", cpus, n), {{"scaling_driver", "amd-pstate-epp"},
                                                              {"scaling_governor", m.governor},
                                                              {"energy_performance_preference", m.governor},
                                                              {"cpuinfo_min_freq", "400000"},
                                                              {"cpuinfo_max_freq", "5100000"},
                                                              {"scaling_cur_freq", m.boost ? "4900000" : "3700000"},
                                                              {"scaling_max_freq", m.boost ? "5100000" : "3800000"}});
    tree.link(cpu + "cpufreq", fmt::format("{}/cpufreq/policy{}", cpus, n));
    info += fmt::format(
        "processor\t: {}\nvendor_id\t: OstrelSilicon\ncpu family\t: 31\nmodel\t\t: 17\nmodel name\t: {}\nstepping\t: "
        "2\nmicrocode\t: 0xb404023\nflags\t\t: fpu tsc msr sse2 nx lm avx2\n\n",
        n, m.processor);
  }
  for (const int n : off) tree.line(fmt::format("{}/cpu{}/online", cpus, n), "0");
  if (m.small_cores > 0) {
    std::vector<int> large;
    std::vector<int> small;
    for (const int n : on) (n % m.cores < m.cores - m.small_cores ? large : small).push_back(n);
    tree.line("sys/bus/event_source/devices/cpu_core/cpus", listText(large));
    if (!small.empty()) tree.line("sys/bus/event_source/devices/cpu_atom/cpus", listText(small));
  }
  tree.text("proc/cpuinfo", info);
}

std::uint64_t usableBytes(const Machine& m) {
  const std::uint64_t installed =
      static_cast<std::uint64_t>(m.memory_modules) * static_cast<std::uint64_t>(m.memory_gib) * kGiB;
  return installed - static_cast<std::uint64_t>(m.carve_out_mib) * kMiB;
}

void writeMemory(FakeTree& tree, const Machine& m) {
  FirmwareTables tables;
  tables.add(0, 0x1A, {{4, 1, 1}, {5, 1, 2}, {8, 1, 3}}, {"Hollin Firmware Works", m.firmware_version, "03/18/2026"});
  tables.add(2, 0x0F, {{4, 1, 1}, {5, 1, 2}}, {"Corvane", m.board});
  const auto cores = static_cast<std::uint64_t>(m.cores);
  tables.add(4, 0x30,
             {{0x23, 1, cores}, {0x24, 1, cores}, {0x25, 1, cores * static_cast<std::uint64_t>(m.threads_per_core)}},
             {"Socket Q"});
  constexpr const char* kSockets[] = {"DIMM_A2", "DIMM_B2", "DIMM_A1",
                                      "DIMM_B1"};  // in the order in which they are to be filled
  for (int i = 0; i < 4; ++i) {
    const std::string locator = kSockets[i];
    const bool is_filled = i < m.memory_modules;
    const auto number = [](int value) { return static_cast<std::uint64_t>(value); };
    if (!is_filled) {
      tables.add(17, 0x5C, {{0x10, 1, 1}, {0x11, 1, 2}}, {locator, fmt::format("CHANNEL {}", locator[5])});
      continue;
    }
    tables.add(17, 0x5C,
               {{0x08, 2, 64},
                {0x0A, 2, 64},
                {0x0C, 2, 0x7FFF},
                {0x10, 1, 1},
                {0x11, 1, 2},
                {0x12, 1, 0x22},
                {0x15, 2, number(m.memory_rated_mts)},
                {0x17, 1, 3},
                {0x1A, 1, 4},
                {0x1C, 4, number(m.memory_gib) * 1024},
                {0x20, 2, number(m.memory_mts)},
                {0x24, 2, number(m.memory_most_mv)},
                {0x26, 2, number(m.memory_mv)}},
               {locator, fmt::format("CHANNEL {}", locator[5]), "Marl Memory",
                fmt::format("MM{}-{}", m.memory_gib, m.memory_rated_mts)});
  }
  tree.text("sys/firmware/dmi/tables/DMI", tables.finished());
  const std::uint64_t usable = usableBytes(m);
  tree.lines("sys/firmware/memmap/0",
             {{"start", "0x0"}, {"end", fmt::format("{:#x}", usable - 1)}, {"type", "System RAM"}});
  tree.text("proc/meminfo", meminfoText(m, m.memory_in_use_mib));
  tree.lines("sys/devices/system/node", {{"online", "0"}, {"node0/distance", "10"}});
}

// The box and its cable; what hangs behind it goes on in this chain.
std::string writeBox(FakeTree& tree, const Machine& m, std::string chain) {
  tree.pci({.address = "0000:05:00.0",
            .chain = chain,
            .vendor = "0x01f1",
            .device = "0x0021",
            .class_code = "0x060400",
            .port_type = 5,
            .gts = 2.5,
            .width = 4});
  chain += "/0000:05:00.0";
  tree.pci({.address = "0000:06:00.0",
            .chain = chain,
            .vendor = "0x01f1",
            .device = "0x0022",
            .class_code = "0x060400",
            .port_type = 6,
            .gts = m.link_gts,
            .width = 4});
  chain += "/0000:06:00.0";
  tree.lines("sys/bus/thunderbolt/devices/0-1", {{"rx_speed", fmt::format("{:.1f} Gb/s", m.cable_gbps)},
                                                 {"tx_speed", fmt::format("{:.1f} Gb/s", m.cable_gbps)},
                                                 {"rx_lanes", "2"},
                                                 {"tx_lanes", "2"},
                                                 {"generation", "4"},
                                                 {"authorized", "1"},
                                                 {"device_name", "Tarn dock"}});
  return chain;
}

void writeCard(FakeTree& tree, const Machine& m, const std::string& card) {
  const std::uint64_t vram = 12 * kGiB;
  tree.lines(card, {{"product_name", "Luma-9"},
                    {"vbios_version", "L9-0017-A2"},
                    {"boot_vga", "1"},
                    {"gpu_busy_percent", std::to_string(m.busy_percent)},
                    {"mem_info_vram_total", std::to_string(vram)},
                    {"mem_info_vis_vram_total",
                     std::to_string(std::min(vram, static_cast<std::uint64_t>(m.aperture_mib) * kMiB))},
                    {"power_dpm_force_performance_level", "auto"},
                    {"resource0_resize", "0000000000007f00"},
                    {"hwmon/hwmon2/name", "amdgpu"},
                    {"hwmon/hwmon2/temp1_input", std::to_string(1000 * m.graphics_c)},
                    {"hwmon/hwmon2/temp1_crit", "105000"},
                    {"hwmon/hwmon2/fan1_input", std::to_string(m.fan_rpm)},
                    {"hwmon/hwmon2/power1_average", "28000000"},
                    {"hwmon/hwmon2/power1_cap", "190000000"},
                    {"mem_info_vram_used", "268435456"},
                    {fmt::format("drm/card{0}/card{0}-DP-1/status", m.graphics_number), "connected"},
                    {fmt::format("drm/card{0}/card{0}-DP-1/modes", m.graphics_number), "2560x1440"}});
  tree.link("sys/class/hwmon/hwmon2", card + "/hwmon/hwmon2");
}

// root port, the card's own switch, the card. Behind a cable two more: the box's ports, which are virtual.
void writeGraphics(FakeTree& tree, const Machine& m) {
  PciDevice root{.address = "0000:00:01.0",
                 .chain = "",
                 .vendor = "0xf1a0",
                 .device = "0x0a01",
                 .class_code = "0x060400",
                 .port_type = 4,
                 .gts = m.link_gts,
                 .width = m.link_width,
                 .target_gts = m.link_gts,
                 .driver = "pcieport"};
  std::string chain = "0000:00:01.0";
  if (m.is_external) {
    root.gts = 2.5;
    root.width = 4;
  }
  tree.pci(root);
  if (m.is_external) chain = writeBox(tree, m, chain);
  const int width = m.is_external ? 4 : m.link_width;
  tree.pci({.address = "0000:01:00.0",
            .chain = chain,
            .vendor = "0xf1c9",
            .device = "0x9001",
            .class_code = "0x060400",
            .port_type = 5,
            .gts = m.link_gts,
            .width = width,
            .driver = "pcieport",
            .power_saving = m.link_power_saving});
  chain += "/0000:01:00.0";
  tree.pci({.address = "0000:02:00.0",
            .chain = chain,
            .vendor = "0xf1c9",
            .device = "0x9002",
            .class_code = "0x060400",
            .port_type = 6,
            .gts = 16,
            .width = 16,
            .driver = "pcieport"});
  chain += "/0000:02:00.0";
  const std::string card = tree.pci({.address = "0000:03:00.0",
                                     .chain = chain,
                                     .vendor = "0xf1c9",
                                     .device = m.graphics_id,
                                     .class_code = "0x030000",
                                     .port_type = 1,
                                     .gts = 16,
                                     .width = 16,
                                     .driver = "amdgpu",
                                     .bar_bytes = static_cast<std::uint64_t>(m.aperture_mib) * kMiB});
  writeCard(tree, m, card);
  if (m.is_external) tree.line(card + "/removable", "removable");
}

void writeRest(FakeTree& tree, const Machine& m, const std::string& boot_id, std::int64_t boots) {
  tree.lines("sys/class/dmi/id", {{"bios_version", m.firmware_version},
                                  {"bios_date", "03/18/2026"},
                                  {"bios_vendor", "Hollin Firmware Works"},
                                  {"board_name", m.board},
                                  {"product_name", "dome-node"}});
  tree.lines("proc", {{"sys/kernel/random/boot_id", boot_id},
                      {"uptime", fmt::format("{}.44 13650.20", 60 + boots)},
                      {"sys/kernel/osrelease", m.kernel},
                      {"sys/kernel/version", "#1 SMP PREEMPT_DYNAMIC 2026-02-11"},
                      {"cmdline", "ro quiet"},
                      {"sys/vm/swappiness", std::to_string(m.swappiness)},
                      {"sys/vm/nr_hugepages", "0"},
                      {"sys/kernel/numa_balancing", "0"},
                      {"loadavg", "2.11 1.94 1.20 3/611 4417"}});
  tree.line("sys/kernel/mm/transparent_hugepage/enabled", "always [madvise] never");
  tree.line("sys/module/amdgpu/srcversion", m.driver_version);
  tree.lines("sys/devices/system/edac/mc/mc0", {{"ce_count", "0"}, {"ue_count", "0"}});
  tree.text("sys/bus/pci/devices/0000:00:01.0/aer_dev_correctable", "RxErr 0\nTOTAL_ERR_COR 0\n");
}

using Field = std::function<void(Machine&, const nlohmann::json&)>;

template <class T>
Field into(T Machine::*member) {
  return [member](Machine& machine, const nlohmann::json& value) { machine.*member = value.get<T>(); };
}

const std::map<std::string, Field>& fields() {
  static const std::map<std::string, Field> all{{"firmware_version", into(&Machine::firmware_version)},
                                                {"board", into(&Machine::board)},
                                                {"processor", into(&Machine::processor)},
                                                {"cores", into(&Machine::cores)},
                                                {"threads_per_core", into(&Machine::threads_per_core)},
                                                {"small_cores", into(&Machine::small_cores)},
                                                {"offline", into(&Machine::offline)},
                                                {"governor", into(&Machine::governor)},
                                                {"boost", into(&Machine::boost)},
                                                {"memory_modules", into(&Machine::memory_modules)},
                                                {"memory_gib", into(&Machine::memory_gib)},
                                                {"memory_rated_mts", into(&Machine::memory_rated_mts)},
                                                {"memory_mts", into(&Machine::memory_mts)},
                                                {"memory_mv", into(&Machine::memory_mv)},
                                                {"carve_out_mib", into(&Machine::carve_out_mib)},
                                                {"link_gts", into(&Machine::link_gts)},
                                                {"link_width", into(&Machine::link_width)},
                                                {"link_power_saving", into(&Machine::link_power_saving)},
                                                {"aperture_mib", into(&Machine::aperture_mib)},
                                                {"graphics_id", into(&Machine::graphics_id)},
                                                {"busy_percent", into(&Machine::busy_percent)},
                                                {"is_external", into(&Machine::is_external)},
                                                {"cable_gbps", into(&Machine::cable_gbps)},
                                                {"kernel", into(&Machine::kernel)},
                                                {"swappiness", into(&Machine::swappiness)},
                                                {"graphics_c", into(&Machine::graphics_c)},
                                                {"fan_rpm", into(&Machine::fan_rpm)},
                                                {"graphics_memory_mib", into(&Machine::graphics_memory_mib)},
                                                {"memory_in_use_mib", into(&Machine::memory_in_use_mib)},
                                                {"memory_errors", into(&Machine::memory_errors)},
                                                {"memory_most_mv", into(&Machine::memory_most_mv)},
                                                {"corrected_errors", into(&Machine::corrected_errors)},
                                                {"link_errors", into(&Machine::link_errors)},
                                                {"graphics_number", into(&Machine::graphics_number)},
                                                {"driver_version", into(&Machine::driver_version)},
                                                {"yields", into(&Machine::yields)}};
  return all;
}

}  // namespace

std::string meminfoText(const Machine& machine, double in_use_mib) {
  constexpr double kLeastLeft = 0.02;
  const std::uint64_t total_kib = usableBytes(machine) / 1024 / 1000 * 984;
  const auto total = static_cast<double>(total_kib);
  return fmt::format("MemTotal:       {} kB\nMemAvailable:   {:.0f} kB\nSwapTotal:             0 kB\n", total_kib,
                     std::max(kLeastLeft * total, total - 1024 * in_use_mib));
}

core::Status overrideMachine(Machine& machine, const nlohmann::json& overrides) {
  for (const auto& [name, value] : overrides.items()) {
    const auto field = fields().find(name);
    if (field == fields().end())
      return core::Error{core::ErrorKind::Malformed, "a machine has no field '" + name + "'", "machine",
                         "See docs/simulated-bench.md"};
    try {
      field->second(machine, value);
    } catch (const nlohmann::json::exception& e) {
      return core::Error{core::ErrorKind::Malformed, e.what(), "machine." + name, "See docs/simulated-bench.md"};
    }
  }
  return core::Done{};
}

core::Status writeMachine(const Machine& machine, const std::string& boot_id, std::int64_t boots,
                          const std::string& folder, std::int64_t clock_ahead_ms) {
  const std::string fresh = folder + ".new";
  const std::string old = folder + ".old";
  std::error_code code;
  std::filesystem::remove_all(fresh, code);
  FakeTree tree(fresh);
  writeProcessor(tree, machine);
  writeMemory(tree, machine);
  writeGraphics(tree, machine);
  writeRest(tree, machine, boot_id, boots);
  tree.line("clock_ahead_ms", fmt::format("{}", clock_ahead_ms));
  const core::Error failed{core::ErrorKind::Io, "the machine's files cannot be written", folder,
                           "Check the folder and the free space"};
  if (!tree.isWhole()) return failed;
  std::filesystem::remove_all(old, code);
  if (std::filesystem::exists(folder, code)) std::filesystem::rename(folder, old, code);
  std::filesystem::rename(fresh, folder, code);
  if (code) return failed;
  std::filesystem::remove_all(old, code);
  return core::Done{};
}

}  // namespace simbench
