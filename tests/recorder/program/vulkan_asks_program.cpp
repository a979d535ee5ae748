// Asks a Vulkan device, made without anything that shows pictures, for functions that it has not and has: prints which
// it was given.
#include <vulkan/vulkan.h>

#include <cstdint>
#include <cstdio>
#include <vector>

int main() {
  VkApplicationInfo application{};
  application.sType = VK_STRUCTURE_TYPE_APPLICATION_INFO;
  application.apiVersion = VK_API_VERSION_1_1;
  VkInstanceCreateInfo info{};
  info.sType = VK_STRUCTURE_TYPE_INSTANCE_CREATE_INFO;
  info.pApplicationInfo = &application;
  VkInstance instance = VK_NULL_HANDLE;
  if (vkCreateInstance(&info, nullptr, &instance) != VK_SUCCESS) return 2;
  std::uint32_t count = 1;
  VkPhysicalDevice physical = VK_NULL_HANDLE;
  vkEnumeratePhysicalDevices(instance, &count, &physical);
  if (count == 0) return 3;
  const float priority = 1;
  VkDeviceQueueCreateInfo queue{};
  queue.sType = VK_STRUCTURE_TYPE_DEVICE_QUEUE_CREATE_INFO;
  queue.queueCount = 1;
  queue.pQueuePriorities = &priority;
  VkDeviceCreateInfo device_info{};
  device_info.sType = VK_STRUCTURE_TYPE_DEVICE_CREATE_INFO;
  device_info.queueCreateInfoCount = 1;
  device_info.pQueueCreateInfos = &queue;
  VkDevice device = VK_NULL_HANDLE;
  if (vkCreateDevice(physical, &device_info, nullptr, &device) != VK_SUCCESS) return 4;
  for (const char* name : {"vkQueuePresentKHR", "vkCreateSwapchainKHR", "vkQueueSubmit", "vkQueueSubmit2KHR",
                           "vkCreateInstance", "vkDestroyDevice", "vkNoSuchFunction"})
    std::printf("%s %d\n", name, vkGetDeviceProcAddr(device, name) != nullptr);
  for (const char* name : {"vkCreateXcbSurfaceKHR", "vkCreateDevice", "vkNoSuchFunction"})
    std::printf("%s %d\n", name, vkGetInstanceProcAddr(instance, name) != nullptr);
  vkDestroyDevice(device, nullptr);
  // As many as some programs make to try something.
  std::vector<VkDevice> devices;
  for (device = VK_NULL_HANDLE;
       devices.size() < 70 && vkCreateDevice(physical, &device_info, nullptr, &device) == VK_SUCCESS;)
    devices.push_back(device);
  std::printf("%zu devices\n", devices.size());
  for (VkDevice one : devices) vkDestroyDevice(one, nullptr);
  vkDestroyInstance(instance, nullptr);
  return 0;
}
