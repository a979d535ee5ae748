#pragma once

#include <string>
#include <vector>

#include "core/values/result.h"
#include "probe/measurement.h"

namespace probe {

struct CopyOptions {
  int device = 0;  ///< which Vulkan device, as `copy --list` numbers them
  int mib = 256;
  int repeats = 5;
  std::string pci = {};  ///< which one, by its PCI address, where that is not empty
};

/// Copies between host memory that stays in place and the device's own memory.
struct CopyReadings {
  std::string device;
  bool is_software = false;  ///< the device is a program: no link is crossed
  Measurements to_device_GBps;
  Measurements to_host_GBps;
};

/// A Vulkan device as its driver tells it.
struct VulkanDevice {
  std::string name;
  std::string pci;     ///< "0000:03:00.0"; empty where the device does not tell
  std::string driver;  ///< its name and version, "some driver 24.1"
};
/// All Vulkan devices, in their order. Errors  Missing where there is no Vulkan or no device
[[nodiscard]] core::Result<std::vector<VulkanDevice>> vulkanDevices();

/// The place in that list of the device that options name. Errors  Missing{what}
[[nodiscard]] core::Result<std::size_t> chosenDevice(const CopyOptions& options, const char* what);

/// Errors  OutOfRange for options, Missing for no such device, TooFew where its memory does not suffice, Io
[[nodiscard]] core::Result<CopyReadings> measureCopy(const CopyOptions& options);

}  // namespace probe
