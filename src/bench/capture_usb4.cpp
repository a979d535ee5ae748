#include "bench/capture_parts.h"

namespace bench {

void captureUsb4(FactReader& reader) {
  const std::string base = "/sys/bus/thunderbolt/devices";
  for (const std::string& device : reader.list(base)) {
    const std::string name = "thunderbolt/" + device + "/";
    const std::string path = base + "/" + device + "/";
    for (const char* file : {"rx_speed", "tx_speed", "rx_lanes", "tx_lanes", "generation", "authorized", "nvm_version",
                             "vendor_name", "device_name", "security", "iommu_dma_protection", "deauthorization"})
      reader.text(name + file, path + file);
    for (const std::string& port : reader.list(path))
      if (port.starts_with("usb4_port")) reader.text(name + port + "/link", path + port + "/link");
  }
}

}  // namespace bench
