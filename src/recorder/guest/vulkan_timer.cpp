#include "recorder/guest/vulkan_timer.h"

#include "recorder/guest/ring_writer.h"

namespace recorder {

struct VulkanTimer::Functions {
  PFN_vkCreateQueryPool create_queries = nullptr;
  PFN_vkDestroyQueryPool destroy_queries = nullptr;
  PFN_vkGetQueryPoolResults results = nullptr;
  PFN_vkCreateCommandPool create_pool = nullptr;
  PFN_vkDestroyCommandPool destroy_pool = nullptr;
  PFN_vkAllocateCommandBuffers allocate = nullptr;
  PFN_vkBeginCommandBuffer begin = nullptr;
  PFN_vkEndCommandBuffer end = nullptr;
  PFN_vkCmdResetQueryPool reset = nullptr;
  PFN_vkCmdWriteTimestamp write = nullptr;
  PFN_vkQueueSubmit submit = nullptr;
};

std::unique_ptr<VulkanTimer> VulkanTimer::of(VkDevice device, PFN_vkGetDeviceProcAddr next,
                                             PFN_vkSetDeviceLoaderData set_loader_data, std::uint32_t family,
                                             std::uint32_t valid_bits, float ns_per_tick) {
  if (valid_bits == 0) return nullptr;
  std::unique_ptr<VulkanTimer> made(new VulkanTimer);
  made->device_ = device;
  made->ns_per_tick_ = ns_per_tick;
  made->mask_ = valid_bits >= 64 ? UINT64_MAX : (std::uint64_t{1} << valid_bits) - 1;
  made->call_ = std::make_unique<Functions>();
  Functions& call = *made->call_;
  const auto take = [&](auto& function, const char* name) {
    function = reinterpret_cast<std::remove_reference_t<decltype(function)>>(next(device, name));
  };
  take(call.create_queries, "vkCreateQueryPool");
  take(call.destroy_queries, "vkDestroyQueryPool");
  take(call.results, "vkGetQueryPoolResults");
  take(call.create_pool, "vkCreateCommandPool");
  take(call.destroy_pool, "vkDestroyCommandPool");
  take(call.allocate, "vkAllocateCommandBuffers");
  take(call.begin, "vkBeginCommandBuffer");
  take(call.end, "vkEndCommandBuffer");
  take(call.reset, "vkCmdResetQueryPool");
  take(call.write, "vkCmdWriteTimestamp");
  take(call.submit, "vkQueueSubmit");
  return made->make(family, set_loader_data) ? std::move(made) : nullptr;
}

VulkanTimer::~VulkanTimer() {
  if (pool_ != VK_NULL_HANDLE) call_->destroy_pool(device_, pool_, nullptr);
  if (queries_ != VK_NULL_HANDLE) call_->destroy_queries(device_, queries_, nullptr);
}

bool VulkanTimer::make(std::uint32_t family, PFN_vkSetDeviceLoaderData set_loader_data) {
  VkQueryPoolCreateInfo queries{};
  queries.sType = VK_STRUCTURE_TYPE_QUERY_POOL_CREATE_INFO;
  queries.queryType = VK_QUERY_TYPE_TIMESTAMP;
  queries.queryCount = 2 * kSlots;
  if (call_->create_queries(device_, &queries, nullptr, &queries_) != VK_SUCCESS) return false;
  VkCommandPoolCreateInfo pool{};
  pool.sType = VK_STRUCTURE_TYPE_COMMAND_POOL_CREATE_INFO;
  pool.queueFamilyIndex = family;
  if (call_->create_pool(device_, &pool, nullptr, &pool_) != VK_SUCCESS) return false;
  std::array<VkCommandBuffer, 2 * kSlots> buffers{};
  VkCommandBufferAllocateInfo wanted{};
  wanted.sType = VK_STRUCTURE_TYPE_COMMAND_BUFFER_ALLOCATE_INFO;
  wanted.commandPool = pool_;
  wanted.level = VK_COMMAND_BUFFER_LEVEL_PRIMARY;
  wanted.commandBufferCount = 2 * kSlots;
  if (call_->allocate(device_, &wanted, buffers.data()) != VK_SUCCESS) return false;
  for (VkCommandBuffer buffer : buffers)
    if (set_loader_data != nullptr && set_loader_data(device_, buffer) != VK_SUCCESS) return false;
  for (std::uint32_t i = 0; i < kSlots; ++i) {
    slots_[i].begin = buffers[2 * i];
    slots_[i].end = buffers[2 * i + 1];
    if (!record(i)) return false;
  }
  return true;
}

// Recorded once; a slot comes again only when the device is through with it.
bool VulkanTimer::record(std::uint32_t slot) {
  VkCommandBufferBeginInfo info{};
  info.sType = VK_STRUCTURE_TYPE_COMMAND_BUFFER_BEGIN_INFO;
  const Slot& one = slots_[slot];
  if (call_->begin(one.begin, &info) != VK_SUCCESS || call_->begin(one.end, &info) != VK_SUCCESS) return false;
  call_->reset(one.begin, queries_, 2 * slot, 2);
  call_->write(one.begin, VK_PIPELINE_STAGE_TOP_OF_PIPE_BIT, queries_, 2 * slot);
  call_->write(one.end, VK_PIPELINE_STAGE_BOTTOM_OF_PIPE_BIT, queries_, 2 * slot + 1);
  return call_->end(one.begin) == VK_SUCCESS && call_->end(one.end) == VK_SUCCESS;
}

void VulkanTimer::submit(VkQueue queue, VkCommandBuffer commands) const {
  VkSubmitInfo info{};
  info.sType = VK_STRUCTURE_TYPE_SUBMIT_INFO;
  info.commandBufferCount = 1;
  info.pCommandBuffers = &commands;
  (void)call_->submit(queue, 1, &info, VK_NULL_HANDLE);
}

void VulkanTimer::beforeSubmit(VkQueue queue) {
  Slot& slot = slots_[next_];
  if (slot.stage != Stage::Free) return;  // begun already; or the device is far behind, and this frame goes untimed
  slot.stage = Stage::Begun;
  submit(queue, slot.begin);
}

void VulkanTimer::beforePresent(VkQueue queue, std::uint64_t frame) {
  Slot& slot = slots_[next_];
  if (slot.stage != Stage::Begun) return;
  slot.stage = Stage::Ended;
  slot.frame = frame;
  submit(queue, slot.end);
  next_ = (next_ + 1) % kSlots;
}

void VulkanTimer::collect(RingWriter& ring) {
  for (std::uint32_t i = 0; i < kSlots; ++i) {
    Slot& slot = slots_[i];
    if (slot.stage != Stage::Ended) continue;
    std::uint64_t said[4] = {};  // begin, is it there, end, is it there
    const VkResult result = call_->results(device_, queries_, 2 * i, 2, sizeof said, said, 2 * sizeof(std::uint64_t),
                                           VK_QUERY_RESULT_64_BIT | VK_QUERY_RESULT_WITH_AVAILABILITY_BIT);
    if (result != VK_SUCCESS || said[1] == 0 || said[3] == 0) continue;
    const std::uint64_t ticks = (said[2] - said[0]) & mask_;
    ring.deviceTook(slot.frame,
                    static_cast<std::int64_t>(static_cast<double>(ticks) * static_cast<double>(ns_per_tick_)));
    slot.stage = Stage::Free;
  }
}

}  // namespace recorder
