#pragma once

#include <vulkan/vk_layer.h>
#include <vulkan/vulkan.h>

#include <array>
#include <atomic>
#include <cstdint>
#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <vector>

#include "recorder/guest/vulkan_surfaces.h"
#include "recorder/guest/vulkan_timer.h"

/// What a Vulkan layer knows of the instances and devices of its program.
namespace recorder {

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
  PFN_vkGetPhysicalDeviceQueueFamilyProperties families = nullptr;
  SurfaceFunctions surfaces;
};

// A swapchain and the surface that it shows on; a surface keeps its stream when its swapchain is made anew.
struct Swapchain {
  std::atomic<VkSwapchainKHR> handle = VK_NULL_HANDLE;
  VkSurfaceKHR surface = VK_NULL_HANDLE;
};

/// Never freed: whoever presents walks the list without a lock. One that has ended is used again.
struct Device {
  Device* after = nullptr;  // in the list; written before it is in it
  std::atomic<Key> key = nullptr;
  PFN_vkGetDeviceProcAddr next = nullptr;
  PFN_vkQueuePresentKHR present = nullptr;
  PFN_vkCreateSwapchainKHR create_swapchain = nullptr;
  PFN_vkDestroySwapchainKHR destroy_swapchain = nullptr;
  PFN_vkQueueSubmit submit = nullptr;
  PFN_vkQueueSubmit2 submit_2 = nullptr;
  PFN_vkQueueSubmit2 submit_2_khr = nullptr;
  PFN_vkGetDeviceQueue get_queue = nullptr;
  PFN_vkGetDeviceQueue2 get_queue_2 = nullptr;
  PFN_vkDestroyDevice destroy = nullptr;
  PFN_vkSetDeviceLoaderData set_loader_data = nullptr;
  VkDevice handle = VK_NULL_HANDLE;
  std::string name;
  std::vector<std::uint32_t> time_bits;  // of each queue family
  float ns_per_tick = 1;
  std::map<VkQueue, std::uint32_t> queues;  // and their families; under the guard
  // Of the queue that presents, where the device's time is wanted; made with the first frame.
  std::atomic<VkQueue> timed_queue = VK_NULL_HANDLE;
  std::unique_ptr<VulkanTimer> timer;
  std::array<Swapchain, 32> swapchains;
  std::atomic<std::uint32_t> submissions = 0;
};

/// Of whatever is made and ended; presenting and submitting only look.
extern std::mutex guard;
extern std::map<Key, Instance> instances;
extern std::atomic<Device*> devices;  // the newest

/// One for a device that is being made; the guard is held. Null without memory.
[[nodiscard]] Device* freeDevice();
/// Nothing for a device that was not seen made.
[[nodiscard]] Device* deviceOf(Key key);
/// Our functions are only given out for devices that we have seen made.
[[nodiscard]] Device& theDevice(Key key);
[[nodiscard]] Instance instanceOf(Key key);

// The loader's link to the next layer, in the chain of a create structure.
template <class Link>
Link* linkIn(const void* chain, VkStructureType type, VkLayerFunction what = VK_LAYER_LINK_INFO) {
  for (auto* link = static_cast<const Link*>(chain); link != nullptr; link = static_cast<const Link*>(link->pNext))
    if (link->sType == type && link->function == what) return const_cast<Link*>(link);
  return nullptr;
}

}  // namespace recorder
