// A Vulkan layer that notes when a program presents each frame. The loader puts it between the program and the driver
// of the programs that the session starts; it changes nothing that passes through.
#include <vulkan/vk_layer.h>
#include <vulkan/vulkan.h>

#include <cstdlib>
#include <cstring>
#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <utility>
#include <vector>

#include "recorder/guest/own_process.h"
#include "recorder/guest/streams.h"
#include "recorder/guest/vulkan_devices.h"

namespace recorder {
namespace {

template <class Function, class Next, class Handle>
Function ask(Next next, Handle handle, const char* name) {
  return reinterpret_cast<Function>(next(handle, name));
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
  Instance made{
      *instance,
      next,
      ask<PFN_vkDestroyInstance>(next, *instance, "vkDestroyInstance"),
      ask<PFN_vkGetPhysicalDeviceProperties>(next, *instance, "vkGetPhysicalDeviceProperties"),
      ask<PFN_vkGetPhysicalDeviceQueueFamilyProperties>(next, *instance, "vkGetPhysicalDeviceQueueFamilyProperties"),
      SurfaceFunctions::behind(next, *instance)};
  const std::lock_guard lock(guard);
  instances[keyOf(*instance)] = made;
  return result;
}

VKAPI_ATTR void VKAPI_CALL destroyInstance(VkInstance instance, const VkAllocationCallbacks* allocator) {
  if (instance == VK_NULL_HANDLE) return;
  const Key key = keyOf(instance);
  const Instance known = instanceOf(key);
  {
    const std::lock_guard lock(guard);
    instances.erase(key);
  }
  if (known.destroy != nullptr) known.destroy(instance, allocator);
}

void fill(Device& made, VkDevice device, PFN_vkGetDeviceProcAddr next, const Instance& instance,
          VkPhysicalDevice physical) {
  made.next = next;
  made.present = ask<PFN_vkQueuePresentKHR>(next, device, "vkQueuePresentKHR");
  made.create_swapchain = ask<PFN_vkCreateSwapchainKHR>(next, device, "vkCreateSwapchainKHR");
  made.destroy_swapchain = ask<PFN_vkDestroySwapchainKHR>(next, device, "vkDestroySwapchainKHR");
  made.submit = ask<PFN_vkQueueSubmit>(next, device, "vkQueueSubmit");
  made.submit_2 = ask<PFN_vkQueueSubmit2>(next, device, "vkQueueSubmit2");
  made.submit_2_khr = ask<PFN_vkQueueSubmit2>(next, device, "vkQueueSubmit2KHR");
  made.get_queue = ask<PFN_vkGetDeviceQueue>(next, device, "vkGetDeviceQueue");
  made.get_queue_2 = ask<PFN_vkGetDeviceQueue2>(next, device, "vkGetDeviceQueue2");
  made.destroy = ask<PFN_vkDestroyDevice>(next, device, "vkDestroyDevice");
  made.handle = device;
  made.queues.clear();
  made.time_bits.clear();
  std::uint32_t count = 0;
  instance.families(physical, &count, nullptr);
  std::vector<VkQueueFamilyProperties> families(count);
  instance.families(physical, &count, families.data());
  for (const VkQueueFamilyProperties& family : families) made.time_bits.push_back(family.timestampValidBits);
  VkPhysicalDeviceProperties properties{};
  instance.properties(physical, &properties);
  made.name = properties.deviceName;
  made.ns_per_tick = properties.limits.timestampPeriod;
  made.submissions = 0;
  for (Swapchain& swapchain : made.swapchains) swapchain.handle = VK_NULL_HANDLE;
}

VKAPI_ATTR VkResult VKAPI_CALL createDevice(VkPhysicalDevice physical, const VkDeviceCreateInfo* info,
                                            const VkAllocationCallbacks* allocator, VkDevice* device) {
  auto* link = linkIn<VkLayerDeviceCreateInfo>(info->pNext, VK_STRUCTURE_TYPE_LOADER_DEVICE_CREATE_INFO);
  const Instance instance = instanceOf(keyOf(physical));
  if (link == nullptr || instance.next == nullptr) return VK_ERROR_INITIALIZATION_FAILED;
  const PFN_vkGetInstanceProcAddr next_instance = link->u.pLayerInfo->pfnNextGetInstanceProcAddr;
  const PFN_vkGetDeviceProcAddr next = link->u.pLayerInfo->pfnNextGetDeviceProcAddr;
  const auto* callback = linkIn<VkLayerDeviceCreateInfo>(info->pNext, VK_STRUCTURE_TYPE_LOADER_DEVICE_CREATE_INFO,
                                                         VK_LOADER_DATA_CALLBACK);
  const PFN_vkSetDeviceLoaderData set_loader_data = callback == nullptr ? nullptr : callback->u.pfnSetDeviceLoaderData;
  link->u.pLayerInfo = link->u.pLayerInfo->pNext;
  const auto create = ask<PFN_vkCreateDevice>(next_instance, instance.handle, "vkCreateDevice");
  const VkResult result = create(physical, info, allocator, device);
  if (result != VK_SUCCESS) return result;
  const std::lock_guard lock(guard);
  Device* made = freeDevice();
  if (made == nullptr) {
    ask<PFN_vkDestroyDevice>(next, *device, "vkDestroyDevice")(*device, allocator);
    return VK_ERROR_OUT_OF_HOST_MEMORY;
  }
  fill(*made, *device, next, instance, physical);
  made->set_loader_data = set_loader_data;
  made->key.store(keyOf(*device), std::memory_order_release);
  if (wanted().any()) RingWriter::reserve();
  return result;
}

VKAPI_ATTR void VKAPI_CALL destroyDevice(VkDevice device, const VkAllocationCallbacks* allocator) {
  if (device == VK_NULL_HANDLE) return;
  Device* known = deviceOf(keyOf(device));
  if (known == nullptr) return;
  known->timed_queue = VK_NULL_HANDLE;
  known->timer.reset();
  known->destroy(device, allocator);
  known->key.store(nullptr, std::memory_order_release);
}

Surface streamSurface(VkSurfaceKHR surface) { return {"Vulkan", nullptr, idOf(surface)}; }

void note(Device& device, const VkSwapchainCreateInfoKHR& info, VkSwapchainKHR swapchain) {
  const std::lock_guard lock(guard);
  for (Swapchain& place : device.swapchains) {
    if (place.handle != VK_NULL_HANDLE) continue;
    Stream* stream = streamOf(streamSurface(info.surface));
    if (stream == nullptr) return;
    stream->ring.describe(device.name.c_str(), presentModeName(info.presentMode));
    stream->ring.resize(info.imageExtent.width, info.imageExtent.height);
    stream->ring.beginSurface();  // whoever counts what was shown begins anew
    if (!std::exchange(stream->is_described, true)) placeSurface(*stream, info.surface);
    place.surface = info.surface;
    place.handle.store(swapchain, std::memory_order_release);
    return;
  }
}

VKAPI_ATTR VkResult VKAPI_CALL createSwapchain(VkDevice handle, const VkSwapchainCreateInfoKHR* info,
                                               const VkAllocationCallbacks* allocator, VkSwapchainKHR* swapchain) {
  Device& device = theDevice(keyOf(handle));
  const VkResult result = device.create_swapchain(handle, info, allocator, swapchain);
  if (result == VK_SUCCESS && wanted().any()) note(device, *info, *swapchain);
  return result;
}

VKAPI_ATTR void VKAPI_CALL destroySwapchain(VkDevice handle, VkSwapchainKHR swapchain,
                                            const VkAllocationCallbacks* allocator) {
  Device& device = theDevice(keyOf(handle));
  for (Swapchain& place : device.swapchains)
    if (swapchain != VK_NULL_HANDLE && place.handle == swapchain) place.handle = VK_NULL_HANDLE;
  device.destroy_swapchain(handle, swapchain, allocator);
}

Stream* streamOfSwapchain(Device& device, VkSwapchainKHR swapchain) {
  for (Swapchain& place : device.swapchains)
    if (place.handle.load(std::memory_order_acquire) == swapchain) return knownStreamOf(streamSurface(place.surface));
  return nullptr;
}

bool isTaken(VkResult result) { return result == VK_SUCCESS || result == VK_SUBOPTIMAL_KHR; }

VKAPI_ATTR void VKAPI_CALL getQueue(VkDevice handle, std::uint32_t family, std::uint32_t index, VkQueue* queue) {
  Device& device = theDevice(keyOf(handle));
  device.get_queue(handle, family, index, queue);
  const std::lock_guard lock(guard);
  device.queues[*queue] = family;
}
VKAPI_ATTR void VKAPI_CALL getQueue2(VkDevice handle, const VkDeviceQueueInfo2* info, VkQueue* queue) {
  Device& device = theDevice(keyOf(handle));
  device.get_queue_2(handle, info, queue);
  const std::lock_guard lock(guard);
  if (*queue != VK_NULL_HANDLE) device.queues[*queue] = info->queueFamilyIndex;
}

// With the first frame that a queue presents; the program holds the queue meanwhile.
void beginTiming(Device& device, VkQueue queue) {
  const std::lock_guard lock(guard);
  const auto found = device.queues.find(queue);
  if (device.timer || found == device.queues.end() || found->second >= device.time_bits.size()) return;
  device.timer = VulkanTimer::of(device.handle, device.next, device.set_loader_data, found->second,
                                 device.time_bits[found->second], device.ns_per_tick);
  if (device.timer) device.timed_queue.store(queue, std::memory_order_release);
}

// Of the first stream that a call presents: one that presents several at once draws them as one.
void time(Device& device, VkQueue queue, Stream& stream) {
  if (device.timed_queue.load(std::memory_order_acquire) != queue) return beginTiming(device, queue);
  device.timer->collect(stream.ring);  // of the frames before: this one is in the ring when its call has come back
  device.timer->beforePresent(queue, stream.ring.next());
}

void countSubmission(Device& device, VkQueue queue, std::uint32_t count) {
  device.submissions.fetch_add(count, std::memory_order_relaxed);
  if (device.timed_queue.load(std::memory_order_acquire) == queue) device.timer->beforeSubmit(queue);
}

VKAPI_ATTR VkResult VKAPI_CALL queuePresent(VkQueue queue, const VkPresentInfoKHR* info) {
  Device& device = theDevice(keyOf(queue));
  for (std::uint32_t i = 0; i < info->swapchainCount; ++i)
    if (Stream* stream = streamOfSwapchain(device, info->pSwapchains[i]); stream != nullptr && stream->feedback)
      stream->feedback->beforeCommit();
  Stream* first = info->swapchainCount > 0 ? streamOfSwapchain(device, info->pSwapchains[0]) : nullptr;
  if (first != nullptr && wanted().device_time) time(device, queue, *first);
  const RingWriter::Frame frame = RingWriter::handOver();
  const std::uint32_t submissions = device.submissions.exchange(0, std::memory_order_relaxed);
  const VkResult result = device.present(queue, info);
  for (std::uint32_t i = 0; i < info->swapchainCount; ++i) {
    Stream* stream = streamOfSwapchain(device, info->pSwapchains[i]);
    if (stream != nullptr && isTaken(info->pResults != nullptr ? info->pResults[i] : result))
      stream->ring.returned(frame, submissions);
  }
  return result;
}

VKAPI_ATTR VkResult VKAPI_CALL queueSubmit(VkQueue queue, std::uint32_t count, const VkSubmitInfo* submits,
                                           VkFence fence) {
  Device& device = theDevice(keyOf(queue));
  countSubmission(device, queue, count);
  return device.submit(queue, count, submits, fence);
}
VKAPI_ATTR VkResult VKAPI_CALL queueSubmit2(VkQueue queue, std::uint32_t count, const VkSubmitInfo2* submits,
                                            VkFence fence) {
  Device& device = theDevice(keyOf(queue));
  countSubmission(device, queue, count);
  return (device.submit_2 != nullptr ? device.submit_2 : device.submit_2_khr)(queue, count, submits, fence);
}

template <class Create, class Info>
VkResult createSurface(Create SurfaceFunctions::*create, WindowPlace (*place)(const Info&), VkInstance instance,
                       const Info* info, const VkAllocationCallbacks* allocator, VkSurfaceKHR* surface) {
  const VkResult result = (instanceOf(keyOf(instance)).surfaces.*create)(instance, info, allocator, surface);
  if (result == VK_SUCCESS) noteSurface(*surface, place(*info));
  return result;
}
VKAPI_ATTR VkResult VKAPI_CALL createXlibSurface(VkInstance instance, const XlibSurface* info,
                                                 const VkAllocationCallbacks* allocator, VkSurfaceKHR* surface) {
  return createSurface(&SurfaceFunctions::create_xlib, &placeOfXlib, instance, info, allocator, surface);
}
VKAPI_ATTR VkResult VKAPI_CALL createXcbSurface(VkInstance instance, const XcbSurface* info,
                                                const VkAllocationCallbacks* allocator, VkSurfaceKHR* surface) {
  return createSurface(&SurfaceFunctions::create_xcb, &placeOfXcb, instance, info, allocator, surface);
}
VKAPI_ATTR VkResult VKAPI_CALL createWaylandSurface(VkInstance instance, const WaylandSurface* info,
                                                    const VkAllocationCallbacks* allocator, VkSurfaceKHR* surface) {
  return createSurface(&SurfaceFunctions::create_wayland, &placeOfWayland, instance, info, allocator, surface);
}
VKAPI_ATTR void VKAPI_CALL destroySurface(VkInstance instance, VkSurfaceKHR surface,
                                          const VkAllocationCallbacks* allocator) {
  endSurface(streamSurface(surface));
  forgetSurface(surface);
  instanceOf(keyOf(instance)).surfaces.destroy(instance, surface, allocator);
}

struct Entry {
  const char* name;
  PFN_vkVoidFunction function;
};
#define ENTRY(name, function) \
  { name, reinterpret_cast<PFN_vkVoidFunction>(function) }

PFN_vkVoidFunction deviceFunction(const char* name);
PFN_vkVoidFunction instanceFunction(const char* name);

// What was not enabled has no function, and then ours has nothing to stand around.
VKAPI_ATTR PFN_vkVoidFunction VKAPI_CALL getDeviceProcAddr(VkDevice device, const char* name) {
  const Device* known = deviceOf(keyOf(device));
  const PFN_vkVoidFunction next = known == nullptr ? nullptr : known->next(device, name);
  const PFN_vkVoidFunction ours = deviceFunction(name);
  return next != nullptr && ours != nullptr ? ours : next;
}

bool isGlobal(const char* name) {
  return std::strcmp(name, "vkGetInstanceProcAddr") == 0 || std::strcmp(name, "vkCreateInstance") == 0;
}

VKAPI_ATTR PFN_vkVoidFunction VKAPI_CALL getInstanceProcAddr(VkInstance instance, const char* name) {
  if (instance == VK_NULL_HANDLE) return isGlobal(name) ? instanceFunction(name) : nullptr;
  const Instance known = instanceOf(keyOf(instance));
  const PFN_vkVoidFunction next = known.next == nullptr ? nullptr : known.next(instance, name);
  PFN_vkVoidFunction ours = instanceFunction(name);
  if (ours == nullptr) ours = deviceFunction(name);
  return ours != nullptr && (next != nullptr || isGlobal(name)) ? ours : next;
}

PFN_vkVoidFunction find(const Entry* begin, const Entry* end, const char* name) {
  for (; begin != end; ++begin)
    if (std::strcmp(begin->name, name) == 0) return begin->function;
  return nullptr;
}

PFN_vkVoidFunction deviceFunction(const char* name) {
  static const Entry entries[] = {
      ENTRY("vkGetDeviceProcAddr", getDeviceProcAddr),
      ENTRY("vkDestroyDevice", destroyDevice),
      ENTRY("vkCreateSwapchainKHR", createSwapchain),
      ENTRY("vkDestroySwapchainKHR", destroySwapchain),
      ENTRY("vkQueuePresentKHR", queuePresent),
      ENTRY("vkQueueSubmit", queueSubmit),
      ENTRY("vkGetDeviceQueue", getQueue),
      ENTRY("vkGetDeviceQueue2", getQueue2),
      ENTRY("vkQueueSubmit2", queueSubmit2),
      ENTRY("vkQueueSubmit2KHR", queueSubmit2),
  };
  return find(std::begin(entries), std::end(entries), name);
}

PFN_vkVoidFunction instanceFunction(const char* name) {
  static const Entry entries[] = {
      ENTRY("vkGetInstanceProcAddr", getInstanceProcAddr),
      ENTRY("vkCreateInstance", createInstance),
      ENTRY("vkDestroyInstance", destroyInstance),
      ENTRY("vkCreateDevice", createDevice),
      ENTRY("vkCreateXlibSurfaceKHR", createXlibSurface),
      ENTRY("vkCreateXcbSurfaceKHR", createXcbSurface),
      ENTRY("vkCreateWaylandSurfaceKHR", createWaylandSurface),
      ENTRY("vkDestroySurfaceKHR", destroySurface),
  };
  return find(std::begin(entries), std::end(entries), name);
}

}  // namespace
}  // namespace recorder

extern "C" VK_LAYER_EXPORT VkResult VKAPI_CALL
vkNegotiateLoaderLayerInterfaceVersion(VkNegotiateLayerInterface* asked) {
  if (asked->loaderLayerInterfaceVersion < CURRENT_LOADER_LAYER_INTERFACE_VERSION)
    return VK_ERROR_INITIALIZATION_FAILED;
  asked->loaderLayerInterfaceVersion = CURRENT_LOADER_LAYER_INTERFACE_VERSION;
  asked->pfnGetInstanceProcAddr = recorder::getInstanceProcAddr;
  asked->pfnGetDeviceProcAddr = recorder::getDeviceProcAddr;
  asked->pfnGetPhysicalDeviceProcAddr = nullptr;
  return VK_SUCCESS;
}
