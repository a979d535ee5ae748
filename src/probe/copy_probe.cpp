#include "probe/copy_probe.h"

#include <vulkan/vulkan.h>

#include <algorithm>
#include <cstring>
#include <optional>

#include <fmt/format.h>

namespace probe {
namespace {

using core::Error;
using core::ErrorKind;

Error vulkanError(const char* step, VkResult code) {
  const bool is_memory = code == VK_ERROR_OUT_OF_DEVICE_MEMORY || code == VK_ERROR_OUT_OF_HOST_MEMORY;
  return {is_memory ? ErrorKind::TooFew : ErrorKind::Io,
          fmt::format("{} failed (Vulkan {})", step, static_cast<int>(code)), "copy",
          is_memory ? "Use fewer --mib" : "Update the graphics driver, or choose another --device"};
}

/// Everything that the measurement makes, given back in the right order.
class Copier {
 public:
  Copier() = default;
  ~Copier() {
    if (device_) {
      vkDeviceWaitIdle(device_);
      vkDestroyFence(device_, fence_, nullptr);
      vkDestroyCommandPool(device_, pool_, nullptr);
      for (const Buffer& buffer : {host_, own_}) {
        vkDestroyBuffer(device_, buffer.handle, nullptr);
        vkFreeMemory(device_, buffer.memory, nullptr);
      }
      vkDestroyDevice(device_, nullptr);
    }
    if (instance_) vkDestroyInstance(instance_, nullptr);
  }
  Copier(const Copier&) = delete;
  Copier& operator=(const Copier&) = delete;

  core::Status open() {
    VkApplicationInfo application{};
    application.sType = VK_STRUCTURE_TYPE_APPLICATION_INFO;
    application.apiVersion = VK_API_VERSION_1_1;
    VkInstanceCreateInfo info{};
    info.sType = VK_STRUCTURE_TYPE_INSTANCE_CREATE_INFO;
    info.pApplicationInfo = &application;
    const Error none{
        ErrorKind::Missing, "there is no Vulkan device on this machine", "copy",
        "Install the graphics driver's Vulkan part; for a trial, mesa-vulkan-drivers brings a software device"};
    if (vkCreateInstance(&info, nullptr, &instance_) != VK_SUCCESS) return none;
    std::uint32_t count = 0;
    vkEnumeratePhysicalDevices(instance_, &count, nullptr);
    devices_.resize(count);
    if (count == 0 || vkEnumeratePhysicalDevices(instance_, &count, devices_.data()) != VK_SUCCESS) return none;
    return core::Done{};
  }

  [[nodiscard]] std::size_t deviceCount() const { return devices_.size(); }
  [[nodiscard]] VkPhysicalDeviceProperties properties(std::size_t index) const {
    VkPhysicalDeviceProperties properties{};
    vkGetPhysicalDeviceProperties(devices_[index], &properties);
    return properties;
  }

  /// "0000:03:00.0"; empty where the device does not tell, as a software device does not.
  [[nodiscard]] std::string pciAddress(std::size_t index) const {
    if (properties(index).apiVersion < VK_API_VERSION_1_1 || !offers(index, VK_EXT_PCI_BUS_INFO_EXTENSION_NAME))
      return "";
    VkPhysicalDevicePCIBusInfoPropertiesEXT bus{};
    bus.sType = VK_STRUCTURE_TYPE_PHYSICAL_DEVICE_PCI_BUS_INFO_PROPERTIES_EXT;
    VkPhysicalDeviceProperties2 asked{};
    asked.sType = VK_STRUCTURE_TYPE_PHYSICAL_DEVICE_PROPERTIES_2;
    asked.pNext = &bus;
    vkGetPhysicalDeviceProperties2(devices_[index], &asked);
    return fmt::format("{:04x}:{:02x}:{:02x}.{:x}", bus.pciDomain, bus.pciBus, bus.pciDevice, bus.pciFunction);
  }

  /// Name and version of its driver; of one too old to tell its name, the version as a number.
  [[nodiscard]] std::string driver(std::size_t index) const {
    const VkPhysicalDeviceProperties known = properties(index);
    if (known.apiVersion < VK_API_VERSION_1_2 && !offers(index, VK_KHR_DRIVER_PROPERTIES_EXTENSION_NAME))
      return fmt::format("{:#x}", known.driverVersion);
    VkPhysicalDeviceDriverProperties told{};
    told.sType = VK_STRUCTURE_TYPE_PHYSICAL_DEVICE_DRIVER_PROPERTIES;
    VkPhysicalDeviceProperties2 asked{};
    asked.sType = VK_STRUCTURE_TYPE_PHYSICAL_DEVICE_PROPERTIES_2;
    asked.pNext = &told;
    vkGetPhysicalDeviceProperties2(devices_[index], &asked);
    return fmt::format("{} {}", told.driverName, told.driverInfo);
  }

  core::Status prepare(std::size_t index, VkDeviceSize size) {
    physical_ = devices_[index];
    size_ = size;
    if (auto made = makeDevice(); !made) return made;
    constexpr auto kUse = VK_BUFFER_USAGE_TRANSFER_SRC_BIT | VK_BUFFER_USAGE_TRANSFER_DST_BIT;
    // Host memory that stays in place and is read back fast where the device offers such.
    if (auto made = makeBuffer(host_, kUse, VK_MEMORY_PROPERTY_HOST_VISIBLE_BIT | VK_MEMORY_PROPERTY_HOST_COHERENT_BIT,
                               VK_MEMORY_PROPERTY_HOST_CACHED_BIT);
        !made)
      return made;
    if (auto made = makeBuffer(own_, kUse, VK_MEMORY_PROPERTY_DEVICE_LOCAL_BIT, 0); !made) return made;
    void* mapped = nullptr;
    if (const VkResult code = vkMapMemory(device_, host_.memory, 0, size_, 0, &mapped); code != VK_SUCCESS)
      return vulkanError("mapping host memory", code);
    std::memset(mapped, 0x5A, size_);  // touched: a page that was never written is no memory
    vkUnmapMemory(device_, host_.memory);
    return core::Done{};
  }

  /// Seconds for one copy, from handing it in to its end.
  core::Result<double> copy(bool to_device) {
    vkResetCommandPool(device_, pool_, 0);
    VkCommandBufferBeginInfo begin{};
    begin.sType = VK_STRUCTURE_TYPE_COMMAND_BUFFER_BEGIN_INFO;
    vkBeginCommandBuffer(commands_, &begin);
    const VkBufferCopy region{0, 0, size_};
    vkCmdCopyBuffer(commands_, to_device ? host_.handle : own_.handle, to_device ? own_.handle : host_.handle, 1,
                    &region);
    vkEndCommandBuffer(commands_);
    VkSubmitInfo submit{};
    submit.sType = VK_STRUCTURE_TYPE_SUBMIT_INFO;
    submit.commandBufferCount = 1;
    submit.pCommandBuffers = &commands_;
    VkResult code = VK_SUCCESS;
    const double seconds = secondsOf([&] {
      code = vkQueueSubmit(queue_, 1, &submit, fence_);
      if (code == VK_SUCCESS) code = vkWaitForFences(device_, 1, &fence_, VK_TRUE, 60'000'000'000ULL);
    });
    vkResetFences(device_, 1, &fence_);
    if (code != VK_SUCCESS) return vulkanError("copying", code);
    return seconds;
  }

 private:
  struct Buffer {
    VkBuffer handle = VK_NULL_HANDLE;
    VkDeviceMemory memory = VK_NULL_HANDLE;
  };

  [[nodiscard]] bool offers(std::size_t index, const char* extension) const {
    std::uint32_t count = 0;
    vkEnumerateDeviceExtensionProperties(devices_[index], nullptr, &count, nullptr);
    std::vector<VkExtensionProperties> all(count);
    vkEnumerateDeviceExtensionProperties(devices_[index], nullptr, &count, all.data());
    return std::any_of(all.begin(), all.end(),
                       [&](const auto& one) { return std::strcmp(one.extensionName, extension) == 0; });
  }

  core::Status makeDevice() {
    std::uint32_t count = 0;
    vkGetPhysicalDeviceQueueFamilyProperties(physical_, &count, nullptr);
    std::vector<VkQueueFamilyProperties> families(count);
    vkGetPhysicalDeviceQueueFamilyProperties(physical_, &count, families.data());
    // Every family can copy; one that can do nothing else is the copy engine itself.
    std::uint32_t family = 0;
    for (std::uint32_t i = 0; i < count; ++i)
      if ((families[i].queueFlags & VK_QUEUE_TRANSFER_BIT) &&
          !(families[i].queueFlags & (VK_QUEUE_GRAPHICS_BIT | VK_QUEUE_COMPUTE_BIT)))
        family = i;
    const float priority = 1;
    VkDeviceQueueCreateInfo queue{};
    queue.sType = VK_STRUCTURE_TYPE_DEVICE_QUEUE_CREATE_INFO;
    queue.queueFamilyIndex = family;
    queue.queueCount = 1;
    queue.pQueuePriorities = &priority;
    VkDeviceCreateInfo info{};
    info.sType = VK_STRUCTURE_TYPE_DEVICE_CREATE_INFO;
    info.queueCreateInfoCount = 1;
    info.pQueueCreateInfos = &queue;
    if (const VkResult code = vkCreateDevice(physical_, &info, nullptr, &device_); code != VK_SUCCESS)
      return vulkanError("opening the device", code);
    vkGetDeviceQueue(device_, family, 0, &queue_);
    VkCommandPoolCreateInfo pool{};
    pool.sType = VK_STRUCTURE_TYPE_COMMAND_POOL_CREATE_INFO;
    pool.queueFamilyIndex = family;
    if (const VkResult code = vkCreateCommandPool(device_, &pool, nullptr, &pool_); code != VK_SUCCESS)
      return vulkanError("making a command pool", code);
    VkCommandBufferAllocateInfo buffers{};
    buffers.sType = VK_STRUCTURE_TYPE_COMMAND_BUFFER_ALLOCATE_INFO;
    buffers.commandPool = pool_;
    buffers.level = VK_COMMAND_BUFFER_LEVEL_PRIMARY;
    buffers.commandBufferCount = 1;
    if (const VkResult code = vkAllocateCommandBuffers(device_, &buffers, &commands_); code != VK_SUCCESS)
      return vulkanError("making a command buffer", code);
    VkFenceCreateInfo fence{};
    fence.sType = VK_STRUCTURE_TYPE_FENCE_CREATE_INFO;
    if (const VkResult code = vkCreateFence(device_, &fence, nullptr, &fence_); code != VK_SUCCESS)
      return vulkanError("making a fence", code);
    return core::Done{};
  }

  [[nodiscard]] std::optional<std::uint32_t> memoryType(std::uint32_t allowed, VkMemoryPropertyFlags needed) const {
    VkPhysicalDeviceMemoryProperties memory{};
    vkGetPhysicalDeviceMemoryProperties(physical_, &memory);
    for (std::uint32_t i = 0; i < memory.memoryTypeCount; ++i)
      if ((allowed >> i & 1U) && (memory.memoryTypes[i].propertyFlags & needed) == needed) return i;
    return std::nullopt;
  }

  core::Status makeBuffer(Buffer& buffer, VkBufferUsageFlags use, VkMemoryPropertyFlags needed,
                          VkMemoryPropertyFlags wished) {
    VkBufferCreateInfo info{};
    info.sType = VK_STRUCTURE_TYPE_BUFFER_CREATE_INFO;
    info.size = size_;
    info.usage = use;
    if (const VkResult code = vkCreateBuffer(device_, &info, nullptr, &buffer.handle); code != VK_SUCCESS)
      return vulkanError("making a buffer", code);
    VkMemoryRequirements requirements{};
    vkGetBufferMemoryRequirements(device_, buffer.handle, &requirements);
    auto type = memoryType(requirements.memoryTypeBits, needed | wished);
    if (!type) type = memoryType(requirements.memoryTypeBits, needed);
    if (!type)
      return Error{ErrorKind::Missing, "the device has no memory of the needed kind", "copy",
                   "Choose another --device"};
    VkMemoryAllocateInfo allocate{};
    allocate.sType = VK_STRUCTURE_TYPE_MEMORY_ALLOCATE_INFO;
    allocate.allocationSize = requirements.size;
    allocate.memoryTypeIndex = *type;
    if (const VkResult code = vkAllocateMemory(device_, &allocate, nullptr, &buffer.memory); code != VK_SUCCESS)
      return vulkanError("taking memory", code);
    if (const VkResult code = vkBindBufferMemory(device_, buffer.handle, buffer.memory, 0); code != VK_SUCCESS)
      return vulkanError("binding memory", code);
    return core::Done{};
  }

  VkInstance instance_ = VK_NULL_HANDLE;
  std::vector<VkPhysicalDevice> devices_;
  VkPhysicalDevice physical_ = VK_NULL_HANDLE;
  VkDevice device_ = VK_NULL_HANDLE;
  VkQueue queue_ = VK_NULL_HANDLE;
  VkCommandPool pool_ = VK_NULL_HANDLE;
  VkCommandBuffer commands_ = VK_NULL_HANDLE;
  VkFence fence_ = VK_NULL_HANDLE;
  Buffer host_;
  Buffer own_;
  VkDeviceSize size_ = 0;
};

}  // namespace

core::Result<std::vector<VulkanDevice>> vulkanDevices() {
  Copier copier;
  if (auto opened = copier.open(); !opened) return opened.error();
  std::vector<VulkanDevice> devices;
  for (std::size_t i = 0; i < copier.deviceCount(); ++i)
    devices.push_back({copier.properties(i).deviceName, copier.pciAddress(i), copier.driver(i)});
  return devices;
}

core::Result<std::size_t> chosenDevice(const CopyOptions& options, const char* what) {
  const auto devices = vulkanDevices();
  if (!devices) return devices.error();
  if (options.pci.empty()) {
    const auto index = static_cast<std::size_t>(options.device);
    if (options.device >= 0 && index < devices->size()) return index;
    return Error{ErrorKind::Missing, fmt::format("there are only {} Vulkan devices", devices->size()), what,
                 "See them with: iron-lever-probe copy --list"};
  }
  for (std::size_t i = 0; i < devices->size(); ++i)
    if ((*devices)[i].pci == options.pci) return i;
  return Error{ErrorKind::Missing, "there is no Vulkan device at " + options.pci, what,
               "Install that device's Vulkan driver, or see the others with: iron-lever-probe copy --list"};
}

core::Result<CopyReadings> measureCopy(const CopyOptions& options) {
  if (options.mib < 1 || options.mib > 8192 || options.repeats < 1 || options.repeats > 1000 || options.device < 0)
    return Error{ErrorKind::OutOfRange, "the options do not fit", "copy", "Use --mib 1 to 8192, --repeats 1 to 1000"};
  const auto chosen = chosenDevice(options, "copy");
  if (!chosen) return chosen.error();
  Copier copier;
  if (auto opened = copier.open(); !opened) return opened.error();
  const std::size_t index = *chosen;
  const auto bytes = static_cast<VkDeviceSize>(options.mib) << 20;
  if (auto prepared = copier.prepare(index, bytes); !prepared) return prepared.error();
  CopyReadings readings;
  const VkPhysicalDeviceProperties properties = copier.properties(index);
  readings.device = properties.deviceName;
  readings.is_software = properties.deviceType == VK_PHYSICAL_DEVICE_TYPE_CPU;
  for (int i = -1; i < options.repeats; ++i) {  // one to warm up: the first copy wakes the link
    for (const bool to_device : {true, false}) {
      const auto seconds = copier.copy(to_device);
      if (!seconds) return seconds.error();
      if (i >= 0)
        (to_device ? readings.to_device_GBps : readings.to_host_GBps)
            .values.push_back(static_cast<double>(bytes) / 1e9 / *seconds);
    }
  }
  return readings;
}

}  // namespace probe
