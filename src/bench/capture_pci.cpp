#include <algorithm>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "bench/capture_parts.h"
#include "bench/pci_config.h"
#include "bench/sysfs_text.h"

namespace bench {
namespace {

using core::FactKind;
using Keep = FactReader::Keep;
using Reading = FactReader::Reading;

const std::string kDevices = "/sys/bus/pci/devices";

bool isAddress(std::string_view text) {
  // DDDD:BB:DD.F, the domain with four digits or more
  const auto dot = text.rfind('.');
  return text.size() >= 12 && dot == text.size() - 2 && text[dot - 3] == ':' && text[dot - 6] == ':' &&
         text.find_first_not_of("0123456789abcdef:.") == std::string_view::npos;
}

// The functions on the way to a device, as its real folder names them: root port first.
std::vector<std::string> addressesIn(const std::string& real_path) {
  std::vector<std::string> addresses;
  for (std::size_t begin = 0; begin < real_path.size();) {
    const std::size_t end = std::min(real_path.find('/', begin), real_path.size());
    if (std::string part = real_path.substr(begin, end - begin); isAddress(part)) addresses.push_back(std::move(part));
    begin = end + 1;
  }
  return addresses;
}

/// One function of a device.
class PciFunction {
 public:
  PciFunction(FactReader& reader, const std::string& address)
      : reader_(reader), path_(kDevices + "/" + address + "/"), name_("pci/" + address + "/") {}

  void capture() {
    identity();
    link();
    apertures();
    configuration();
    health();
    if (reader_.capture().text(name_ + "class").starts_with("0x03")) graphics();
    hardwareMonitor();
  }
  /// Who it is, and its link.
  void captureLink() {
    identity();
    link();
  }

 private:
  void text(const char* file, FactKind kind = FactKind::Configuration) {
    reader_.text(name_ + file, path_ + file, Keep{kind, "", ""});
  }
  void number(const char* file, const Keep& keep) { reader_.number(name_ + file, path_ + file, keep); }

  void identity() {
    for (const char* file : {"vendor", "device", "subsystem_vendor", "subsystem_device", "class", "revision",
                             "removable", "label", "boot_vga", "numa_node"})
      text(file);
    reader_.text(name_ + "power_state", path_ + "power_state", {FactKind::Evidence, "", ""});
    if (const std::string driver = reader_.linkName(path_ + "driver"); !driver.empty()) {
      reader_.derived(name_ + "driver", driver, {}, "", path_ + "driver");
      if (reader_.capture().text(name_ + "class").starts_with("0x03")) driverVersion(driver);
    }
    if (const auto real = reader_.bench().realPath(path_))
      reader_.derived(name_ + "chain", fmt::format("{}", fmt::join(addressesIn(*real), " ")), {}, "", path_);
  }

  // A driver that is a part of the kernel has no version of its own, but a sum over its source.
  void driverVersion(const std::string& driver) {
    for (const char* file : {"/version", "/srcversion"}) {
      const std::string module = "/sys/module/" + driver + file;
      if (const std::string version = reader_.raw(module); !version.empty())
        return reader_.derived(name_ + "driver_version", version, {}, "", module);
    }
  }

  void link() {
    if (reader_.raw(path_ + "power/runtime_status") == "suspended") return sleepingLink();
    for (const char* file : {"current_link_speed", "max_link_speed"})
      reader_.read(name_ + file, path_ + file,
                   [](const std::string& text) -> std::optional<Reading> {
                     const auto speed = linkSpeed(text);
                     return speed ? std::optional(Reading{*speed, std::nullopt}) : std::nullopt;
                   },
                   {});
    for (const char* file : {"current_link_width", "max_link_width"}) number(file, {FactKind::Configuration, "lanes"});
    for (const std::string& state : reader_.list(path_ + "link"))
      reader_.number(name_ + "link/" + state, path_ + "link/" + state, {});
  }

  // Reading these files would wake the device, and then show the state just after waking.
  void sleepingLink() {
    for (const char* file : {"current_link_speed", "current_link_width"})
      reader_.missing(name_ + file, {core::ErrorKind::Busy, "the device sleeps, and reading would wake it",
                                     path_ + file, "Capture it under load"});
  }

  void apertures() {
    const auto lines = resourceLines(reader_.raw(path_ + "resource"));
    if (!lines) return;
    std::optional<std::size_t> memory_bar;
    for (std::size_t i = 0; i < std::min<std::size_t>(6, lines->size()); ++i) {
      const ResourceLine& line = (*lines)[i];
      if (line.size() == 0) continue;
      size(fmt::format("bar{}_size", i), line.size());
      if (line.isPrefetchableMemory() && (!memory_bar || line.size() > (*lines)[*memory_bar].size())) memory_bar = i;
      const std::string resize = fmt::format("resource{}_resize", i);
      text(resize.c_str());
    }
    if (memory_bar && reader_.capture().text(name_ + "class").starts_with("0x03"))
      size("aperture_size", (*lines)[*memory_bar].size());
  }
  void size(const std::string& field, std::uint64_t bytes) {
    reader_.derived(name_ + field, std::to_string(bytes), static_cast<double>(bytes), "bytes", path_ + "resource");
  }

  void configuration() {
    const auto bytes = reader_.bench().readFile(path_ + "config");
    if (!bytes || !reader_.capture().find(name_ + "max_link_speed")) return;
    const std::string target = name_ + "config (link control 2, target speed)";
    if (bytes->size() <= 64)
      return reader_.missing(target,
                             {core::ErrorKind::Denied, "configuration space ends after 64 bytes without more rights",
                              path_ + "config", "Capture once with iron-lever-root-facts, as root"});
    const auto express = parsePciConfig(*bytes);
    if (!express) return;
    if (express->target_gts)
      reader_.derived(target, fmt::format("{:.1f} GT/s", *express->target_gts), {}, "", path_ + "config");
    reader_.derived(name_ + "config (device control, payload)", std::to_string(express->payload_bytes),
                    express->payload_bytes, "bytes", path_ + "config");
    reader_.derived(name_ + "config (link control, power saving)", std::to_string(express->power_saving), {}, "",
                    path_ + "config");
  }

  // Counters since the boot: evidence for a stretch of time, no configuration. Only what is not 0, and the total.
  void health() {
    for (const char* file : {"aer_dev_correctable", "aer_dev_nonfatal", "aer_dev_fatal"})
      reader_.read(name_ + file, path_ + file,
                   [](const std::string& text) -> std::optional<Reading> {
                     std::string value;
                     for (const auto& [counter, count] : counterLines(text))
                       if (count != 0 || counter.starts_with("TOTAL"))
                         value += fmt::format("{}{} {}", value.empty() ? "" : ", ", counter, count);
                     return Reading{value, std::nullopt};
                   },
                   {FactKind::Evidence, "", ""});
    for (const char* file : {"aer_rootport_total_err_cor", "aer_rootport_total_err_nonfatal",
                             "aer_rootport_total_err_fatal", "pcie_replay_count"})
      number(file, {FactKind::Evidence, "", ""});
  }

  void graphics() {
    for (const char* file : {"vbios_version", "product_name", "power_dpm_force_performance_level"}) text(file);
    for (const char* file : {"mem_info_vram_total", "mem_info_vis_vram_total", "mem_info_gtt_total"})
      number(file, {FactKind::Configuration, "bytes"});
    number("gpu_busy_percent", {FactKind::Volatile, "%", "gpu_busy_percent"});
    reader_.read(name_ + "pp_dpm_pcie", path_ + "pp_dpm_pcie",
                 [](const std::string& text) {
                   return std::optional(Reading{linkLevels(text), std::nullopt});
                 },
                 {});
    for (const std::string& tile : reader_.list(path_.substr(0, path_.size() - 1)))
      if (tile.starts_with("tile")) clockLimits(path_ + tile, "min_freq", "max_freq", "freq0/");
    for (const std::string& entry : reader_.list(path_ + "drm")) {
      if (!entry.starts_with("card")) continue;
      reader_.derived(name_ + "drm", entry, {}, "", path_ + "drm", FactKind::Identity);
      for (const std::string& connector : reader_.list(path_ + "drm/" + entry)) display(entry, connector);
      clockLimits(path_ + "drm/" + entry + "/gt", "rps_min_freq_mhz", "rps_max_freq_mhz", "");
    }
  }
  // Drivers that keep a folder for each engine group show its limits there; two layouts are known.
  void clockLimits(const std::string& folder, const char* lowest, const char* highest, const std::string& below) {
    for (const std::string& group : reader_.list(folder)) {
      if (!group.starts_with("gt")) continue;
      for (const auto& [end, file] : {std::pair{"min", lowest}, std::pair{"max", highest}})
        reader_.number(name_ + group + "/" + end + "_mhz", folder + "/" + group + "/" + below + file,
                       {FactKind::Configuration, "MHz"});
    }
  }
  void display(const std::string& card, const std::string& connector) {
    if (!connector.starts_with(card + "-")) return;
    const std::string base = path_ + "drm/" + card + "/" + connector + "/";
    const std::string modes = reader_.raw(base + "modes");
    const std::string mode =
        reader_.raw(base + "status") == "connected" ? modes.substr(0, modes.find('\n')) : "no display";
    reader_.derived(name_ + "display/" + connector.substr(card.size() + 1), mode, {}, "", base + "modes");
  }

  void hardwareMonitor() {
    for (const std::string& monitor : reader_.list(path_ + "hwmon")) {
      const std::string base = path_ + "hwmon/" + monitor + "/";
      reader_.number(name_ + "power_cap", base + "power1_cap", {FactKind::Configuration, "W"}, 1e6);
    }
  }

  FactReader& reader_;
  std::string path_;
  std::string name_;
};

}  // namespace

void capturePci(FactReader& reader) {
  for (const std::string& address : reader.list(kDevices))
    if (isAddress(address)) PciFunction(reader, address).capture();
}

void capturePath(FactReader& reader, const std::string& address) {
  const auto real = reader.bench().realPath(kDevices + "/" + address);
  if (!real) return;
  for (const std::string& one : addressesIn(*real)) PciFunction(reader, one).captureLink();
}

}  // namespace bench
