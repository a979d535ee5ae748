#include "core/machine/variable_kind.h"

#include <algorithm>

namespace core {
namespace {

using Texts = std::vector<std::string_view>;

// The maker's manual has the last word on each of these; they are the usual cautions of the trade.
constexpr std::string_view kManual = "The maker's manual and licensed practice have the last word.";
constexpr std::string_view kPowerOff =
    "Shut down fully, switch off and unplug, hold the power button for 5 s, wait until the standby lights are out. In "
    "a laptop disconnect the battery first if its manual says so.";
constexpr std::string_view kHands = "Touch bare grounded metal or wear a wrist strap; hold boards by their edges.";
constexpr std::string_view kSupply = "Never open a power supply: a lethal charge stays in it after unplugging.";
constexpr std::string_view kHot = "Cards, coolers and drives are hot after a pass: let them cool down.";
constexpr std::string_view kCompact =
    "Compact cases: mind cables between lid and board and ribbons that tear; never bend or puncture a battery. Liquid "
    "cooling: look for leaks before power.";
constexpr std::string_view kChain =
    "Close what uses disks behind the same cable first: unplugging takes them away too.";
constexpr std::string_view kFirmware =
    "Photograph every page of the firmware menu before; change one item. A reset or an update restores all defaults: "
    "capture again.";
constexpr std::string_view kMemory =
    "Never above the voltage printed on the module. The first start trains the memory and may stay dark for minutes: "
    "do not cut the power. Test it for errors before you believe a result, with no drive mounted that holds an only "
    "copy.";
constexpr std::string_view kCable =
    "Certified for the speed and short; the same cable at both levels unless the cable is the variable. Never unplug a "
    "card in use.";
constexpr std::string_view kCooling =
    "Take the cooler off warm and with a twist, mind pins and lands, use fresh paste, and never start without a "
    "cooler.";
constexpr std::string_view kUpdate =
    "Mains power, no interruption, only the file for this board's revision, and know how to go back. Some "
    "versions cannot be rolled back.";
constexpr std::string_view kEncryption =
    "Disk encryption bound to measured boot asks for its recovery key after such a change: have it at hand.";
constexpr std::string_view kOffline =
    "Interrupts and tasks move to other processors; never take the boot processor off. Turn it on again before another "
    "variable.";
constexpr std::string_view kLimits =
    "Watch temperature and throttling; daemons undo such settings silently, so they are read again after the run.";
constexpr std::string_view kDriver = "Save your work: the desktop on that card ends, and the machine may hang.";

// Readings, as the probe prints them.
constexpr std::string_view kReadRate = "read_GBps";
constexpr std::string_view kCopyRate = "to_device_GBps";
constexpr std::string_view kWorkTime = "seconds";

constexpr KindWrite kCoreOnline{"a core on or off (never the first)", "/sys/devices/system/cpu/cpu3/online", "1, 0"};

// Where a maker shows the firmware's settings, the item that was changed is among them.
constexpr std::string_view kMenuItem = "firmware/setting/*";

const Texts kMenuSteps{"Restart into the firmware menu.", "Change this one item, save, and start."};
const Texts kSwapSteps{"Shut down and unplug.", "Change the part.", "Plug in and start."};
const Texts kRunningSteps{"Change the setting on the running system."};
const Texts kCoreFields{"cpu/cpu*",        "cpu/online",     "cpu/offline", "cpu/present", "cpu/logical",
                        "cpu/cores",       "cpu/smt_active", "cpu/types/*", "cpu/cache/*", "cpu/max_khz",
                        "dmi/processor/*", "numa/*",         "memory/total"};
const Texts kCardFields{"pci/{path}/*", "pci/{device}/*", "thunderbolt/*", "graphics/*"};
const Texts kHeldOfADevice{"device/link_speed", "device/link_width", "device/cable", "device/external",
                           "device/aperture"};
Texts joined(std::initializer_list<Texts> lists) {
  Texts all;
  for (const Texts& list : lists) all.insert(all.end(), list.begin(), list.end());
  return all;
}

const Texts kHeldOfAWhole =
    joined({{"memory/configured_speed", "memory/installed", "cpu/governor", "cpu/smt_active", "cpu/boost",
             "power/mains", "kernel/osrelease", "kernel/version", "device/driver", "device/display"},
            kHeldOfADevice});

VariableKind kind(std::string_view id, std::string_view title, std::string_view noun) {
  VariableKind made;
  made.id = id;
  made.title = title;
  made.noun = noun;
  return made;
}

// NOLINTNEXTLINE(readability-function-size): a table
std::vector<VariableKind> linkKinds() {
  VariableKind generation = kind("pcie_generation", "PCIe generation", "link");
  generation.acts_on = ActsOn::Link;
  generation.is_link = true;
  generation.must_change = {"pci/{slot}/current_link_speed"};
  generation.restarts_by_hand = generation.bounds_gain = true;
  generation.itself = {kMenuItem, "pci/{slot}/max_link_speed", "pci/{slot}/config (link control 2, target speed)",
                       "pci/{device}/pp_dpm_pcie"};
  generation.comes_along = {"pci/{slot}/link/*"};
  generation.steps = kMenuSteps;
  generation.measures = kCopyRate;
  generation.expects = ExpectedStep::LinkRate;
  generation.cautions = {kFirmware, kManual};

  VariableKind width = kind("pcie_width", "PCIe width", "link width");
  width.acts_on = ActsOn::Link;
  width.is_link = true;
  width.must_change = {"pci/{slot}/current_link_width"};
  width.restarts_by_hand = width.bounds_gain = true;
  width.itself = {kMenuItem, "pci/{slot}/max_link_width", "pci/{device}/pp_dpm_pcie"};
  width.comes_along = {"pci/{slot}/link/*", "dmi/slot/*"};
  width.steps = kSwapSteps;
  width.measures = kCopyRate;
  width.expects = ExpectedStep::LinkRate;
  width.cautions = {kPowerOff, kHands, kHot, kCompact, kSupply, kManual};

  // Generation and width together: what counts is what passes. Rungs of equal rate and other shape are rungs like
  // others.
  VariableKind whole = kind("pcie_link", "PCIe link, as a whole", "link");
  whole.acts_on = ActsOn::Link;
  whole.is_link = true;
  whole.any_of = {"pci/{slot}/current_link_speed", "pci/{slot}/current_link_width"};
  whole.restarts_by_hand = whole.bounds_gain = true;
  whole.itself = joined({generation.itself, width.itself});
  whole.comes_along = width.comes_along;
  whole.steps = {"Restart into the firmware menu for the generation; shut down and unplug for another slot.",
                 "Change this one link, save, and start."};
  whole.measures = kCopyRate;
  whole.expects = ExpectedStep::LinkRate;
  whole.cautions = {kFirmware, kPowerOff, kHands, kHot, kCompact, kSupply, kManual};

  // One switch of a firmware's menu often moves the drive's link too.
  VariableKind every = whole;
  every.id = "pcie_links";
  every.title = "every PCIe link, as a whole";
  every.noun = "change of the links";
  every.comes_along = joined({whole.comes_along,
                              {"pci/*/current_link_speed", "pci/*/current_link_width", "pci/*/max_link_speed",
                               "pci/*/max_link_width", "pci/*/link/*", "pci/*/config (link control 2, target speed)"}});

  VariableKind bar = kind("resizable_bar", "aperture (resizable BAR)", "aperture");
  bar.acts_on = ActsOn::Link;
  bar.needs_reboot = false;  // a driver can resize it while the system runs
  bar.must_change = {"pci/{device}/aperture_size"};
  bar.itself = {kMenuItem, "pci/{device}/bar*_size", "pci/{device}/mem_info_vis_vram_total"};
  bar.steps = kMenuSteps;
  bar.measures = kCopyRate;
  bar.expects = ExpectedStep::None;
  bar.tolerance = 0.02;
  bar.cautions = {kFirmware, kDriver, kEncryption, kManual};

  VariableKind external = kind("external_link", "external link", "external link");
  external.acts_on = ActsOn::Link;
  external.is_link = true;
  external.any_of = {"pci/{device}/chain", "pci/{device}/removable", "thunderbolt/*_speed", "thunderbolt/*_lanes",
                     "thunderbolt/*/link"};
  external.comes_along = joined({kCardFields, {"numa/*", "dmi/slot/*", "stated/cable", "stated/power_supply"}});
  external.bounds_gain = true;
  external.must_stay = {"pci/{device}/vendor",
                        "pci/{device}/device",
                        "pci/{device}/subsystem_*",
                        "pci/{device}/driver",
                        "pci/{device}/vbios_version",
                        "pci/{device}/power_cap",
                        "pci/{device}/mem_info_vram_total",
                        "pci/{device}/driver_version",
                        "graphics/*"};
  external.steps = {"Shut down both sides unless the maker allows hot-plugging.",
                    "Box power on first, then the cable, then start and authorise."};
  external.measures = kCopyRate;
  external.expects = ExpectedStep::LinkRate;
  external.cautions = {kCable,
                       "An open-frame box has live parts: power off before you touch it. Check wattage and plugs; only "
                       "the maker's charger; never bridge the power-on pins.",
                       kChain, kHot, kManual};

  VariableKind aspm = kind("aspm", "link power saving", "link power saving");
  aspm.acts_on = ActsOn::Link;
  aspm.any_of = {"pci/*/link/*", "kernel/aspm_policy", "pci/*/config (link control, power saving)"};
  aspm.steps = kRunningSteps;
  aspm.measures = kCopyRate;
  aspm.expects = ExpectedStep::None;
  aspm.tolerance = 0.02;
  aspm.writes = {
      {"policy", "/sys/module/pcie_aspm/parameters/policy", "default, performance, powersave, powersupersave"}};
  aspm.cautions = {"Forcing it on can lock up the system.", kManual};
  return {generation, width, whole, every, bar, external, aspm};
}

std::vector<VariableKind> memoryKinds() {
  VariableKind speed = kind("memory_speed", "memory speed or profile", "memory speed");
  speed.acts_on = ActsOn::Processor;
  speed.needs_reboot = speed.needs_stability_test = true;
  speed.must_change = {"dmi/memory/*/configured_speed"};
  speed.bounds_gain = true;
  speed.itself = {kMenuItem};
  speed.comes_along = {"dmi/memory/*/configured_voltage", "cpu/uncore/*", "memory/total", "memory/system_ram",
                       "memory/firmware_reserve"};
  speed.steps = kMenuSteps;
  speed.measures = kReadRate;
  speed.expects = ExpectedStep::MemoryRate;
  speed.cautions = {kMemory, kFirmware, kManual};

  VariableKind capacity = kind("memory_capacity", "memory amount and channels", "memory amount");
  capacity.acts_on = ActsOn::Processor;
  capacity.needs_reboot = capacity.needs_stability_test = true;
  // What is left for the system is no proof of the amount: a built-in graphics device's share changes it as well.
  capacity.any_of = {"dmi/memory/*/size", "memory/installed"};
  capacity.comes_along = {"dmi/memory/*", "memory/*", "numa/*"};
  capacity.must_stay = {"dmi/memory/*/configured_speed", "memory/firmware_reserve", "pci/*/mem_info_vram_total"};
  capacity.steps = kSwapSteps;
  capacity.measures = kReadRate;
  capacity.expects = ExpectedStep::MemoryRate;
  capacity.tolerance = 0.15;  // two channels yield 1.7 to 2 times as much as one
  capacity.cautions = {kPowerOff, kHands,
                       "Slots as the manual says for channels, the notch the right way round, both latches, one kit.",
                       kMemory, kManual};

  VariableKind carve_out = kind("graphics_carve_out", "graphics carve-out from main memory", "carve-out");
  carve_out.needs_reboot = true;
  carve_out.any_of = {"memory/firmware_reserve", "pci/{device}/mem_info_vram_total"};
  carve_out.itself = {kMenuItem, "memory/total", "memory/system_ram", "pci/{device}/mem_info_*"};
  carve_out.comes_along = {"pci/{device}/bar*_size", "pci/{device}/aperture_size"};
  carve_out.steps = kMenuSteps;
  carve_out.measures = kCopyRate;
  carve_out.expects = ExpectedStep::None;
  carve_out.tolerance = 0.02;
  carve_out.cautions = {kFirmware, kManual};

  VariableKind huge = kind("huge_pages", "huge pages", "page size");
  huge.acts_on = ActsOn::Processor;
  huge.must_change = {"kernel/huge_pages"};
  huge.steps = kRunningSteps;
  huge.writes = {{"huge pages", "/sys/kernel/mm/transparent_hugepage/enabled", "never, madvise, always"}};
  huge.cautions = {kManual};

  VariableKind swappiness = kind("swappiness", "swappiness", "swappiness");
  swappiness.acts_on = ActsOn::Processor;
  swappiness.must_change = {"kernel/swappiness"};
  swappiness.steps = kRunningSteps;
  swappiness.writes = {{"swappiness", "/proc/sys/vm/swappiness", "0 to 200"}};
  swappiness.cautions = {kManual};
  return {speed, capacity, carve_out, huge, swappiness};
}

std::vector<VariableKind> processorKinds() {
  VariableKind count = kind("core_count", "number of cores", "core count");
  count.acts_on = ActsOn::Processor;
  count.any_of = {"cpu/online", "cpu/present"};
  count.comes_along = joined({kCoreFields, {kMenuItem}});
  count.must_stay = {"cpu/smt"};
  count.steps = kRunningSteps;
  count.measures = kWorkTime;
  count.expects = ExpectedStep::Cores;
  count.tolerance = 0.2;  // fewer cores boost higher
  count.bounds_gain = true;
  count.writes = {kCoreOnline};
  count.cautions = {kOffline, kManual};

  VariableKind type = kind("core_type", "kinds of cores", "core type");
  type.acts_on = ActsOn::Processor;
  type.any_of = {"cpu/types/*"};
  type.comes_along = joined({kCoreFields, {"cpu/flags", "cpu/governor", "cpu/epp"}});
  type.steps = kRunningSteps;
  type.measures = kWorkTime;
  type.writes = {kCoreOnline};
  type.cautions = {kOffline, kManual};

  VariableKind smt = kind("smt", "two threads a core", "threads-per-core");
  smt.acts_on = ActsOn::Processor;
  smt.must_change = {"cpu/smt_active"};
  smt.comes_along = joined({kCoreFields, {kMenuItem, "cpu/smt", "cpu/vulnerabilities/*"}});
  smt.must_stay = {"cpu/cores"};
  smt.steps = kRunningSteps;
  smt.measures = kWorkTime;
  smt.writes = {{"two threads a core", "/sys/devices/system/cpu/smt/control", "on, off"}};
  smt.cautions = {kOffline, kManual};

  VariableKind governor = kind("governor", "governor and boost", "governor");
  governor.acts_on = ActsOn::Processor;
  governor.any_of = {"cpu/governor", "cpu/epp", "cpu/boost", "cpu/no_turbo", "cpu/limit_khz", "cpu/power_limit/*"};
  governor.comes_along = {"cpu/limit_khz", "cpu/max_khz", "cpu/epp"};
  governor.steps = kRunningSteps;
  governor.measures = "clock_GHz";
  governor.writes = {
      {"governor of every core", "/sys/devices/system/cpu/cpufreq/policy*/scaling_governor", "performance, powersave"},
      {"energy preference", "/sys/devices/system/cpu/cpufreq/policy*/energy_performance_preference",
       "performance, balance_performance, balance_power, power"},
      {"highest clock, kHz", "/sys/devices/system/cpu/cpufreq/policy*/scaling_max_freq", "3000000"},
      {"boost", "/sys/devices/system/cpu/cpufreq/boost", "1, 0"},
      {"no boost, with the other driver", "/sys/devices/system/cpu/intel_pstate/no_turbo", "0, 1"}};
  governor.cautions = {kLimits, kManual};
  return {count, type, smt, governor};
}

// NOLINTNEXTLINE(readability-function-size): a table
std::vector<VariableKind> wholeKinds() {
  VariableKind firmware = kind("firmware_version", "firmware version", "firmware");
  firmware.needs_reboot = true;
  firmware.held = kHeldOfAWhole;
  firmware.must_change = {"firmware/version"};
  firmware.comes_along = {"*"};
  firmware.must_stay = {"dmi/memory/*/part", "dmi/memory/*/size", "pci/*/vendor", "pci/*/device"};
  firmware.steps = {"Note the version and every changed setting.", "Update by the board maker's procedure.",
                    "Set every noted setting again, and start."};
  firmware.cautions = {kUpdate, kFirmware, kEncryption, kManual};

  const Texts travels{
      "pci/{device}/vendor", "pci/{device}/device", "pci/{device}/subsystem_*", "pci/{device}/vbios_version",
      "storage/*/model",     "dmi/memory/*/part",   "kernel/osrelease"};
  VariableKind processor = kind("processor", "processor, as a whole", "processor");
  processor.acts_on = ActsOn::Processor;
  processor.needs_reboot = processor.is_whole = true;
  processor.must_change = {"cpu/model"};
  processor.comes_along = {"stated/cooler",    "cpu/*",         "dmi/processor/*",          "numa/*", "memory/*",
                           "firmware/version", "firmware/date", "dmi/memory/*/configured_*"};
  processor.must_stay = travels;
  processor.held = kHeldOfAWhole;
  processor.steps = {"Update the firmware first where the newer processor needs it, with the recovery file at hand.",
                     "Shut down and unplug.", "Change the processor.", "Start, and check the cooler."};
  processor.cautions = {kPowerOff, kHands, kCooling, kCompact, kUpdate, kManual};

  VariableKind board = kind("board", "board, as a whole", "board");
  board.needs_reboot = board.is_whole = true;
  board.must_change = {"firmware/board"};
  board.comes_along = {"*"};
  board.must_stay = joined({travels, {"cpu/model"}});
  board.held = kHeldOfAWhole;
  board.steps = kSwapSteps;
  board.cautions = {kPowerOff, kHands, kSupply, kCooling, kCompact, kManual};

  VariableKind host = kind("host", "host, as a whole", "host");
  host.needs_reboot = host.is_whole = true;
  host.any_of = {"firmware/board", "firmware/product", "cpu/model"};
  host.comes_along = {"*"};
  host.must_stay = {"pci/{device}/vendor", "pci/{device}/device", "pci/{device}/subsystem_*",
                    "pci/{device}/vbios_version"};
  host.held = kHeldOfAWhole;
  host.steps = {"Shut down both hosts.", "Move what travels along: card, drive, cable.", "Start."};
  host.cautions = {kPowerOff, kHands, kCable, kChain, kManual};

  VariableKind device = kind("device", "device, as a whole", "device");
  device.needs_reboot = device.is_whole = true;
  device.any_of = {"pci/{device}/vendor", "pci/{device}/device", "pci/{device}/subsystem_*"};
  device.comes_along = joined({kCardFields, {"pci/*", "dmi/slot/*", "stated/power_supply", "stated/cable"}});
  device.must_stay = {"storage/*/model"};
  device.held = kHeldOfADevice;
  device.steps = kSwapSteps;
  device.cautions = {kPowerOff,
                     kHands,
                     kHot,
                     "Release the slot's latch first, support a heavy card, seat every power plug fully. Never a cable "
                     "from another modular supply.",
                     kSupply,
                     kManual};

  VariableKind other = kind("other", "another setting", "setting");
  other.steps = kMenuSteps;
  other.cautions = {kFirmware, kManual};
  return {firmware, processor, board, host, device, other};
}

}  // namespace

std::span<const VariableKind> variableKinds() {
  static const std::vector<VariableKind> kinds = [] {
    std::vector<VariableKind> all;
    for (auto part : {linkKinds(), memoryKinds(), processorKinds(), wholeKinds()})
      all.insert(all.end(), part.begin(), part.end());
    return all;
  }();
  return kinds;
}

const VariableKind* findVariableKind(std::string_view id) {
  const auto kinds = variableKinds();
  const auto found = std::find_if(kinds.begin(), kinds.end(), [&](const VariableKind& one) { return one.id == id; });
  return found == kinds.end() ? nullptr : &*found;
}

std::vector<std::string> suggestedMeasureCommand(const VariableKind& kind, const std::string& device) {
  if (kind.measures == kWorkTime) return {"iron-lever-probe", "compute", "--threads", "0"};
  if (kind.measures == kReadRate || kind.measures == "clock_GHz")
    return {"iron-lever-probe", "memory", "--threads", "0"};
  if (kind.measures != kCopyRate) return {};
  std::vector<std::string> copy{"iron-lever-probe", "copy"};
  if (!device.empty()) copy.insert(copy.end(), {"--pci", device});
  return copy;
}

bool isSetInFirmwareMenu(const VariableKind& kind) { return kind.steps == kMenuSteps; }

std::vector<std::string> suggestedStabilityCommand(const VariableKind& kind) {
  if (!kind.needs_stability_test) return {};
  return {"iron-lever-probe", "memory-test", "--seconds", "60"};
}

}  // namespace core
