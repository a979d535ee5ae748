#include "bench/graphics_load.h"

#include "bench/sysfs_text.h"

namespace bench {

std::vector<core::DeviceLoad> graphicsLoads(const BenchConnection& bench) {
  const std::string devices = "/sys/bus/pci/devices";
  std::vector<core::DeviceLoad> loads;
  const auto addresses = bench.listFolder(devices);
  if (!addresses) return loads;
  for (const std::string& address : *addresses) {
    const std::string path = devices + "/" + address + "/";
    const auto status = bench.readFile(path + "power/runtime_status");
    if (status && trimmed(*status) == "suspended") {
      if (const auto text = bench.readFile(path + "class"); text && text->starts_with("0x03"))
        loads.push_back({address, 0});
      continue;
    }
    const auto text = bench.readFile(path + "gpu_busy_percent");
    const auto busy = text ? wholeNumber(*text) : std::nullopt;
    if (busy) loads.push_back({address, static_cast<double>(*busy)});
  }
  return loads;
}

}  // namespace bench
