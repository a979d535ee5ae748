#pragma once

#include <vulkan/vk_layer.h>
#include <vulkan/vulkan.h>

#include <array>
#include <cstdint>
#include <memory>

namespace recorder {

class RingWriter;

/// Times how long a device works on each frame: from the first submission since the frame before to the end of what was
/// submitted until it is presented, on the queue that presents. It hands two tiny command buffers of its own to that
/// queue for each frame, and reads what they noted when it is there: it never waits for the device.
class VulkanTimer {
 public:
  /// Nothing where the queue's family keeps no time. `set_loader_data` is what the loader wants called on handles that
  /// a layer makes.
  [[nodiscard]] static std::unique_ptr<VulkanTimer> of(VkDevice device, PFN_vkGetDeviceProcAddr next,
                                                       PFN_vkSetDeviceLoaderData set_loader_data, std::uint32_t family,
                                                       std::uint32_t valid_bits, float ns_per_tick);
  ~VulkanTimer();
  VulkanTimer(const VulkanTimer&) = delete;
  VulkanTimer& operator=(const VulkanTimer&) = delete;

  /// The program is about to submit to the queue: the first time since the frame before begins the next.
  void beforeSubmit(VkQueue queue);
  /// It is about to present the frame of that number.
  void beforePresent(VkQueue queue, std::uint64_t frame);
  /// Enters into the ring what has become known.
  void collect(RingWriter& ring);

 private:
  static constexpr std::uint32_t kSlots = 64;  // frames that may be on their way
  enum class Stage { Free, Begun, Ended };
  struct Slot {
    VkCommandBuffer begin = VK_NULL_HANDLE;
    VkCommandBuffer end = VK_NULL_HANDLE;
    Stage stage = Stage::Free;
    std::uint64_t frame = 0;
  };
  struct Functions;

  VulkanTimer() = default;
  [[nodiscard]] bool make(std::uint32_t family, PFN_vkSetDeviceLoaderData set_loader_data);
  [[nodiscard]] bool record(std::uint32_t slot);
  void submit(VkQueue queue, VkCommandBuffer commands) const;

  VkDevice device_ = VK_NULL_HANDLE;
  std::unique_ptr<Functions> call_;
  std::uint64_t mask_ = 0;
  float ns_per_tick_ = 1;
  VkQueryPool queries_ = VK_NULL_HANDLE;
  VkCommandPool pool_ = VK_NULL_HANDLE;
  std::array<Slot, kSlots> slots_;
  std::uint32_t next_ = 0;  // the slot that the next frame takes
};

}  // namespace recorder
