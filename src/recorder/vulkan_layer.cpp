// A Vulkan layer that notes when a program presents each frame. The loader puts it between the program and the driver
// of the programs that the session starts; it changes nothing that passes through.
#include <vulkan/vk_layer.h>
#include <vulkan/vulkan.h>

#include <cstring>
#include <map>
#include <memory>
#include <mutex>
#include <string>

#include "recorder/ring_writer.h"

namespace {

using recorder::RingWriter;

// Dispatchable objects begin with a pointer that all objects of one instance, or of one device, share.
using Key = void*;
template <class Handle>
Key keyOf(Handle handle) {
  return *reinterpret_cast<Key*>(handle);
}

// The next layer's functions are asked for while the instance is made: later the loader answers with the first layer's,
// and a call would go round in a circle.
struct Instance {
  VkInstance handle = VK_NULL_HANDLE;
  PFN_vkGetInstanceProcAddr next = nullptr;
  PFN_vkDestroyInstance destroy = nullptr;
  PFN_vkGetPhysicalDeviceProperties properties = nullptr;
};

struct Device {
  PFN_vkGetDeviceProcAddr next = nullptr;
  PFN_vkQueuePresentKHR present = nullptr;
  PFN_vkCreateSwapchainKHR create_swapchain = nullptr;
  PFN_vkDestroySwapchainKHR destroy_swapchain = nullptr;
  PFN_vkDestroyDevice destroy = nullptr;
  std::string name;
  // A window keeps its ring when its swapchain is made anew.
  std::map<VkSurfaceKHR, std::shared_ptr<RingWriter>> windows;
  std::map<VkSwapchainKHR, std::shared_ptr<RingWriter>> swapchains;
};

std::mutex guard;
std::map<Key, Instance> instances;
std::map<Key, std::unique_ptr<Device>> devices;

Device* deviceOf(Key key) {
  const std::lock_guard lock(guard);
  const auto found = devices.find(key);
  return found == devices.end() ? nullptr : found->second.get();
}

// The loader's link to the next layer, in the chain of a create structure.
template <class Link>
Link* linkIn(const void* chain, VkStructureType type) {
  for (auto* link = static_cast<const Link*>(chain); link != nullptr; link = static_cast<const Link*>(link->pNext))
    if (link->sType == type && link->function == VK_LAYER_LINK_INFO) return const_cast<Link*>(link);
  return nullptr;
}

const char* presentModeName(VkPresentModeKHR mode) {
  switch (mode) {
    case VK_PRESENT_MODE_IMMEDIATE_KHR: return "immediate";
    case VK_PRESENT_MODE_MAILBOX_KHR: return "mailbox";
    case VK_PRESENT_MODE_FIFO_KHR: return "FIFO";
    case VK_PRESENT_MODE_FIFO_RELAXED_KHR: return "FIFO relaxed";
    default: return "other";
  }
}

VKAPI_ATTR VkResult VKAPI_CALL createInstance(const VkInstanceCreateInfo* info, const VkAllocationCallbacks* allocator,
                                              VkInstance* instance) {
  auto* link = linkIn<VkLayerInstanceCreateInfo>(info->pNext, VK_STRUCTURE_TYPE_LOADER_INSTANCE_CREATE_INFO);
  if (link == nullptr) return VK_ERROR_INITIALIZATION_FAILED;
  const PFN_vkGetInstanceProcAddr next = link->u.pLayerInfo->pfnNextGetInstanceProcAddr;
  link->u.pLayerInfo = link->u.pLayerInfo->pNext;  // for the next one in the chain
  const auto create = reinterpret_cast<PFN_vkCreateInstance>(next(VK_NULL_HANDLE, "vkCreateInstance"));
  const VkResult result = create(info, allocator, instance);
  if (result != VK_SUCCESS) return result;
  const std::lock_guard lock(guard);
  instances[keyOf(*instance)] = {
      *instance, next, reinterpret_cast<PFN_vkDestroyInstance>(next(*instance, "vkDestroyInstance")),
      reinterpret_cast<PFN_vkGetPhysicalDeviceProperties>(next(*instance, "vkGetPhysicalDeviceProperties"))};
  return result;
}

VKAPI_ATTR void VKAPI_CALL destroyInstance(VkInstance instance, const VkAllocationCallbacks* allocator) {
  if (instance == VK_NULL_HANDLE) return;
  PFN_vkDestroyInstance destroy = nullptr;
  {
    const std::lock_guard lock(guard);
    const auto found = instances.find(keyOf(instance));
    if (found == instances.end()) return;
    destroy = found->second.destroy;
    instances.erase(found);
  }
  destroy(instance, allocator);
}

VKAPI_ATTR VkResult VKAPI_CALL createDevice(VkPhysicalDevice physical, const VkDeviceCreateInfo* info,
                                            const VkAllocationCallbacks* allocator, VkDevice* device) {
  auto* link = linkIn<VkLayerDeviceCreateInfo>(info->pNext, VK_STRUCTURE_TYPE_LOADER_DEVICE_CREATE_INFO);
  Instance instance;
  {
    const std::lock_guard lock(guard);
    const auto found = instances.find(keyOf(physical));
    if (found != instances.end()) instance = found->second;
  }
  if (link == nullptr || instance.next == nullptr) return VK_ERROR_INITIALIZATION_FAILED;
  const PFN_vkGetInstanceProcAddr next_instance = link->u.pLayerInfo->pfnNextGetInstanceProcAddr;
  const PFN_vkGetDeviceProcAddr next = link->u.pLayerInfo->pfnNextGetDeviceProcAddr;
  link->u.pLayerInfo = link->u.pLayerInfo->pNext;
  const auto create = reinterpret_cast<PFN_vkCreateDevice>(next_instance(instance.handle, "vkCreateDevice"));
  const VkResult result = create(physical, info, allocator, device);
  if (result != VK_SUCCESS) return result;
  auto made = std::make_unique<Device>();
  made->next = next;
  made->present = reinterpret_cast<PFN_vkQueuePresentKHR>(next(*device, "vkQueuePresentKHR"));
  made->create_swapchain = reinterpret_cast<PFN_vkCreateSwapchainKHR>(next(*device, "vkCreateSwapchainKHR"));
  made->destroy_swapchain = reinterpret_cast<PFN_vkDestroySwapchainKHR>(next(*device, "vkDestroySwapchainKHR"));
  made->destroy = reinterpret_cast<PFN_vkDestroyDevice>(next(*device, "vkDestroyDevice"));
  VkPhysicalDeviceProperties properties{};
  instance.properties(physical, &properties);
  made->name = properties.deviceName;
  const std::lock_guard lock(guard);
  devices[keyOf(*device)] = std::move(made);
  return result;
}

VKAPI_ATTR void VKAPI_CALL destroyDevice(VkDevice device, const VkAllocationCallbacks* allocator) {
  if (device == VK_NULL_HANDLE) return;
  const Key key = keyOf(device);
  Device* known = deviceOf(key);
  if (known == nullptr) return;
  known->destroy(device, allocator);
  const std::lock_guard lock(guard);
  devices.erase(key);
}

VKAPI_ATTR VkResult VKAPI_CALL createSwapchain(VkDevice handle, const VkSwapchainCreateInfoKHR* info,
                                               const VkAllocationCallbacks* allocator, VkSwapchainKHR* swapchain) {
  Device* device = deviceOf(keyOf(handle));
  const VkResult result = device->create_swapchain(handle, info, allocator, swapchain);
  if (result != VK_SUCCESS || !recorder::isWanted()) return result;
  const std::lock_guard lock(guard);
  auto& ring = device->windows[info->surface];
  if (!ring) ring = std::make_shared<RingWriter>("Vulkan");
  ring->describe(device->name.c_str(), presentModeName(info->presentMode));
  ring->resize(info->imageExtent.width, info->imageExtent.height);
  device->swapchains[*swapchain] = ring;
  return result;
}

VKAPI_ATTR void VKAPI_CALL destroySwapchain(VkDevice handle, VkSwapchainKHR swapchain,
                                            const VkAllocationCallbacks* allocator) {
  Device* device = deviceOf(keyOf(handle));
  {
    const std::lock_guard lock(guard);
    device->swapchains.erase(swapchain);
  }
  device->destroy_swapchain(handle, swapchain, allocator);
}

VKAPI_ATTR VkResult VKAPI_CALL queuePresent(VkQueue queue, const VkPresentInfoKHR* info) {
  PFN_vkQueuePresentKHR present = nullptr;
  {
    const std::lock_guard lock(guard);
    Device& device = *devices.at(keyOf(queue));
    present = device.present;
    for (std::uint32_t i = 0; i < info->swapchainCount; ++i)
      if (const auto found = device.swapchains.find(info->pSwapchains[i]); found != device.swapchains.end())
        found->second->present();
  }
  return present(queue, info);
}

struct Entry {
  const char* name;
  PFN_vkVoidFunction function;
};
#define ENTRY(name, function) \
  { name, reinterpret_cast<PFN_vkVoidFunction>(function) }

PFN_vkVoidFunction ours(const char* name);

VKAPI_ATTR PFN_vkVoidFunction VKAPI_CALL getDeviceProcAddr(VkDevice device, const char* name) {
  if (const auto found = ours(name)) return found;
  Device* known = deviceOf(keyOf(device));
  return known == nullptr ? nullptr : known->next(device, name);
}

VKAPI_ATTR PFN_vkVoidFunction VKAPI_CALL getInstanceProcAddr(VkInstance instance, const char* name) {
  if (const auto found = ours(name)) return found;
  if (instance == VK_NULL_HANDLE) return nullptr;
  const std::lock_guard lock(guard);
  const auto known = instances.find(keyOf(instance));
  return known == instances.end() ? nullptr : known->second.next(instance, name);
}

PFN_vkVoidFunction ours(const char* name) {
  static const Entry entries[] = {
      ENTRY("vkGetInstanceProcAddr", getInstanceProcAddr),
      ENTRY("vkGetDeviceProcAddr", getDeviceProcAddr),
      ENTRY("vkCreateInstance", createInstance),
      ENTRY("vkDestroyInstance", destroyInstance),
      ENTRY("vkCreateDevice", createDevice),
      ENTRY("vkDestroyDevice", destroyDevice),
      ENTRY("vkCreateSwapchainKHR", createSwapchain),
      ENTRY("vkDestroySwapchainKHR", destroySwapchain),
      ENTRY("vkQueuePresentKHR", queuePresent),
  };
  for (const Entry& entry : entries)
    if (std::strcmp(entry.name, name) == 0) return entry.function;
  return nullptr;
}

}  // namespace

extern "C" VK_LAYER_EXPORT VkResult VKAPI_CALL
vkNegotiateLoaderLayerInterfaceVersion(VkNegotiateLayerInterface* asked) {
  if (asked->loaderLayerInterfaceVersion < CURRENT_LOADER_LAYER_INTERFACE_VERSION)
    return VK_ERROR_INITIALIZATION_FAILED;
  asked->loaderLayerInterfaceVersion = CURRENT_LOADER_LAYER_INTERFACE_VERSION;
  asked->pfnGetInstanceProcAddr = getInstanceProcAddr;
  asked->pfnGetDeviceProcAddr = getDeviceProcAddr;
  asked->pfnGetPhysicalDeviceProcAddr = nullptr;
  return VK_SUCCESS;
}
