#include "recorder/guest/vulkan_devices.h"

#include <cstdlib>
#include <new>

namespace recorder {

std::mutex guard;
std::map<Key, Instance> instances;
std::atomic<Device*> devices = nullptr;

Device* freeDevice() {
  for (Device* device = devices.load(); device != nullptr; device = device->after)
    if (device->key == nullptr) return device;
  auto* made = new (std::nothrow) Device;
  if (made == nullptr) return nullptr;
  made->after = devices.load();
  devices.store(made, std::memory_order_release);
  return made;
}

Device* deviceOf(Key key) {
  for (Device* device = devices.load(std::memory_order_acquire); device != nullptr; device = device->after)
    if (device->key.load(std::memory_order_acquire) == key) return device;
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
