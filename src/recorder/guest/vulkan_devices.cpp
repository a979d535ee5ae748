#include "recorder/guest/vulkan_devices.h"

#include <cstdlib>

namespace recorder {

std::mutex guard;
std::map<Key, Instance> instances;
std::array<Device, 64> devices;

Device* deviceOf(Key key) {
  for (Device& device : devices)
    if (device.key.load(std::memory_order_acquire) == key) return &device;
  return nullptr;
}

Device& theDevice(Key key) {
  Device* device = deviceOf(key);
  if (device == nullptr) std::abort();
  return *device;
}

Instance instanceOf(Key key) {
  const std::lock_guard lock(guard);
  const auto found = instances.find(key);
  return found == instances.end() ? Instance{} : found->second;
}

}  // namespace recorder
