#include <fmt/format.h>

#include "bench/capture_parts.h"
#include "bench/smbios.h"
#include "bench/sysfs_text.h"

namespace bench {
namespace {

using core::FactKind;
using Reading = FactReader::Reading;

const std::string kTables = "/sys/firmware/dmi/tables/DMI";

void putNumber(FactReader& reader, const std::string& name, double value, const std::string& unit,
               const std::string& source = kTables) {
  reader.derived(name, fmt::format("{:.15g}", value), value, unit, source);
}

void putModule(FactReader& reader, const MemoryModule& module, std::size_t number) {
  const std::string name =
      "dmi/memory/" + (module.locator.empty() ? "socket " + std::to_string(number + 1) : module.locator) + "/";
  putNumber(reader, name + "size", static_cast<double>(module.size_bytes), "bytes");
  reader.derived(name + "bank", module.bank, {}, "", kTables);
  if (module.isEmpty()) return;
  reader.derived(name + "type", module.type, {}, "", kTables);
  reader.derived(name + "part", module.maker + " " + module.part, {}, "", kTables);
  putNumber(reader, name + "data_width", module.data_width_bits, "bits");
  reader.derived(name + "ecc", module.hasEcc() ? "yes" : "no", {}, "", kTables);
  if (module.rated_mts > 0) putNumber(reader, name + "rated_speed", module.rated_mts, "MT/s");
  if (module.configured_mts > 0) putNumber(reader, name + "configured_speed", module.configured_mts, "MT/s");
  if (module.configured_mv > 0) putNumber(reader, name + "configured_voltage", module.configured_mv, "mV");
  if (module.most_mv > 0) putNumber(reader, name + "most_voltage", module.most_mv, "mV");
}

// What only the firmware's tables say. They need root, so every fact that hangs on them says so where they are denied.
void captureTables(FactReader& reader) {
  const auto bytes = reader.bench().readFile(kTables);
  const auto tables = bytes ? parseSmbios(*bytes) : core::Result<Smbios>(bytes.error());
  if (!tables) {
    for (const char* name :
         {"dmi/memory/all/configured_speed", "dmi/memory/all/size", "memory/installed", "memory/firmware_reserve"})
      reader.missing(name, tables.error());
    return;
  }
  double installed = 0;
  for (std::size_t i = 0; i < tables->modules.size(); ++i) {
    putModule(reader, tables->modules[i], i);
    installed += static_cast<double>(tables->modules[i].size_bytes);
  }
  if (installed > 0) putNumber(reader, "memory/installed", installed, "bytes");
  if (tables->processor_cores > 0) {
    putNumber(reader, "dmi/processor/cores", tables->processor_cores, "");
    putNumber(reader, "dmi/processor/cores_enabled", tables->processor_cores_enabled, "");
    putNumber(reader, "dmi/processor/threads", tables->processor_threads, "");
  }
  for (const CardSlot& slot : tables->card_slots) {
    if (slot.label.empty() || slot.usage.empty()) continue;
    const std::string where = slot.address.empty() ? "" : " at " + slot.address;
    reader.derived("dmi/slot/" + slot.label, slot.usage + where, {}, "", kTables);
  }
  const std::string map = "/sys/firmware/memmap";
  double usable = 0;
  for (const std::string& range : reader.list(map)) {
    std::string type = reader.raw(map + "/" + range + "/type");
    const auto start = hexNumber(reader.raw(map + "/" + range + "/start"));
    const auto end = hexNumber(reader.raw(map + "/" + range + "/end"));
    if ((type == "System RAM" || type == "system ram") && start && end && *end >= *start)
      usable += static_cast<double>(*end - *start) + 1;
  }
  if (usable <= 0) return;
  putNumber(reader, "memory/system_ram", usable, "bytes", map);
  if (installed > 0) putNumber(reader, "memory/firmware_reserve", installed - usable, "bytes", map);
}

void captureNuma(FactReader& reader) {
  const std::string base = "/sys/devices/system/node";
  reader.text("numa/online", base + "/online");
  for (const std::string& node : reader.list(base)) {
    if (!node.starts_with("node") || !wholeNumber(node.substr(4))) continue;
    reader.text("numa/" + node + "/cpus", base + "/" + node + "/cpulist");
    reader.text("numa/" + node + "/distance", base + "/" + node + "/distance");
    // What the firmware claims of its memory, not what it yields.
    const std::string claims = base + "/" + node + "/access0/initiators/";
    for (const auto& [claim, unit] : {std::pair{"read_bandwidth", "MiB/s"}, std::pair{"write_bandwidth", "MiB/s"},
                                      std::pair{"read_latency", "ns"}, std::pair{"write_latency", "ns"}})
      reader.number("numa/" + node + "/" + claim, claims + claim, {FactKind::Configuration, unit});
  }
}

// Counters since the boot, of controllers that find errors.
void captureErrors(FactReader& reader) {
  const std::string base = "/sys/devices/system/edac/mc";
  for (const std::string& controller : reader.list(base)) {
    if (!controller.starts_with("mc")) continue;
    for (const auto& [name, file] : {std::pair{"corrected", "/ce_count"}, std::pair{"uncorrected", "/ue_count"}})
      reader.number("memory/errors/" + controller + "/" + name, base + "/" + controller + file,
                    {FactKind::Evidence, "errors"});
  }
}

}  // namespace

void captureMemory(FactReader& reader) {
  const auto meminfo = [&](const char* name, const char* key, const FactReader::Keep& keep) {
    reader.read(
        name, "/proc/meminfo",
        [key](const std::string& text) -> std::optional<Reading> {
          const auto bytes = meminfoBytes(text, key);
          if (!bytes) return std::nullopt;
          return Reading{std::to_string(*bytes), static_cast<double>(*bytes)};
        },
        keep);
  };
  meminfo("memory/total", "MemTotal", {FactKind::Configuration, "bytes"});
  meminfo("memory/swap_total", "SwapTotal", {FactKind::Configuration, "bytes"});
  meminfo("memory/available", "MemAvailable", {FactKind::Volatile, "bytes", "free memory"});
  captureTables(reader);
  captureErrors(reader);
  captureNuma(reader);
}

}  // namespace bench
