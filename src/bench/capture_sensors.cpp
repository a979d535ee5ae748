#include <regex>

#include "bench/capture_parts.h"
#include "bench/sysfs_text.h"

namespace bench {
namespace {

using core::FactKind;

// hwmonN numbers are handed out anew at each boot: a sensor is known by its device and its name.
void captureMonitors(FactReader& reader) {
  const std::string base = "/sys/class/hwmon";
  for (const std::string& monitor : reader.list(base)) {
    const std::string path = base + "/" + monitor + "/";
    const std::string device = reader.linkName(path + "device");
    const std::string name = "hwmon/" + (device.empty() ? "platform" : device) + "/" + reader.raw(path + "name") + "/";
    core::Fact number;
    number.name = name + "number";
    number.kind = FactKind::Volatile;
    number.value = monitor;
    number.group = "hwmon numbering";
    number.source = path;
    reader.capture().put(number);
    for (const std::string& file : reader.list(path)) {
      if (!file.ends_with("_input") && !file.ends_with("_average")) continue;
      if (file.starts_with("temp"))
        reader.number(name + file, path + file, {FactKind::Volatile, "°C", "temperatures"}, 1000);
      else if (file.starts_with("power"))
        reader.number(name + file, path + file, {FactKind::Volatile, "W", "power readings"}, 1e6);
      else if (file.starts_with("fan"))
        reader.number(name + file, path + file, {FactKind::Volatile, "rpm", "fans"});
      else if (file.starts_with("freq"))
        reader.number(name + file, path + file, {FactKind::Volatile, "MHz", "clocks in motion"}, 1e6);
    }
  }
}

void capturePowerLimits(FactReader& reader) {
  const std::string base = "/sys/class/powercap";
  for (const std::string& zone : reader.list(base)) {
    const std::string path = base + "/" + zone + "/";
    const std::string name = reader.raw(path + "name");
    if (name.empty()) continue;
    reader.number("powercap/" + name + "/energy_uj", path + "energy_uj", {FactKind::Volatile, "µJ", "energy_uj"});
    for (const char* constraint : {"constraint_0", "constraint_1"}) {
      const std::string limit = reader.raw(path + constraint + "_name");
      if (!limit.empty())
        reader.number("cpu/power_limit/" + name + " " + limit, path + constraint + "_power_limit_uw",
                      {FactKind::Configuration, "W"}, 1e6);
    }
  }
}

// Drives are numbered anew at each boot: one is known by its controller, and by its port where that has several.
std::string lastingName(FactReader& reader, const std::string& block) {
  const auto real = reader.bench().realPath("/sys/block/" + block);
  static const std::regex kController(R"(.*/([0-9a-f]{4,}:[0-9a-f]{2}:[0-9a-f]{2}\.[0-9a-f])/(ata[0-9]+)?.*)");
  std::smatch match;
  if (!real || !std::regex_match(*real, match, kController)) return block;
  return match[2].matched ? match[1].str() + "/" + match[2].str() : match[1].str();
}

void captureDrives(FactReader& reader) {
  const std::string base = "/sys/class/nvme";
  for (const std::string& drive : reader.list(base)) {
    const std::string path = base + "/" + drive + "/";
    const std::string name = "storage/" + reader.raw(path + "address") + "/";
    reader.text(name + "model", path + "model");
    reader.text(name + "firmware", path + "firmware_rev");
    reader.text(name + "state", path + "state");
  }
  for (const std::string& block : reader.list("/sys/block")) {
    if (block.starts_with("loop") || block.starts_with("ram") || block.starts_with("dm-")) continue;
    reader.read("storage/" + lastingName(reader, block) + "/scheduler", "/sys/block/" + block + "/queue/scheduler",
                [](const std::string& text) {
                  return std::optional(FactReader::Reading{chosen(text), std::nullopt});
                },
                {});
  }
}

}  // namespace

void captureSensors(FactReader& reader) {
  captureMonitors(reader);
  capturePowerLimits(reader);
  captureDrives(reader);
  const std::string supplies = "/sys/class/power_supply";
  for (const std::string& supply : reader.list(supplies)) {
    const std::string path = supplies + "/" + supply + "/";
    if (reader.raw(path + "type") == "Mains") reader.number("power/" + supply + "/online", path + "online", {});
    reader.number("power/" + supply + "/capacity", path + "capacity", {FactKind::Volatile, "%", "battery"});
  }
  for (const char* resource : {"cpu", "io", "memory"})
    reader.text(std::string("load/pressure_") + resource, std::string("/proc/pressure/") + resource,
                {FactKind::Volatile, "", "foreign load"});
  reader.text("load/average", "/proc/loadavg", {FactKind::Volatile, "", "foreign load"});
}

}  // namespace bench
