#include "probe/device_scene.h"

#include "probe/device_window.h"

#include <algorithm>
#include <array>
#include <cstring>
#include <memory>
#include <vector>

#include <fmt/format.h>

#include "probe/shaders/draw_frag.h"
#include "probe/shaders/draw_vert.h"

namespace probe {
namespace {

using core::Error;
using core::ErrorKind;

constexpr vk::Format kFormat = vk::Format::eR8G8B8A8Unorm;
constexpr std::uint32_t kAhead = 2;  // frames that the device may be behind
constexpr int kStars = 4000;
constexpr std::uint64_t kPatienceNs = 60'000'000'000;

struct Push {
  float position;
  std::uint32_t load;
  std::uint32_t index;
};

struct Memory {
  vk::raii::Buffer buffer = nullptr;
  vk::raii::Image image = nullptr;
  vk::raii::DeviceMemory memory = nullptr;
};

/// The device, and all that a frame needs. Throws what the driver says.
class DeviceScene {
 public:
  explicit DeviceScene(const DeviceSceneOptions& options)
      : options_(options), size_(static_cast<std::uint32_t>(options.size)) {
    makeInstance();
    physical_ = vk::raii::PhysicalDevices(instance_).at(options.device);
    makeDevice();
    if (options.has_window) makeSwapchain();
    target_ = makeImage(vk::ImageUsageFlagBits::eColorAttachment | vk::ImageUsageFlagBits::eTransferSrc);
    field_ = makeImage(vk::ImageUsageFlagBits::eSampled | vk::ImageUsageFlagBits::eTransferDst);
    target_view_ = viewOf(target_);
    field_view_ = viewOf(field_);
    sampler_ = {device_, vk::SamplerCreateInfo({}, vk::Filter::eLinear, vk::Filter::eLinear)};
    makePass();
    makePipeline();
    makeFrames();
  }
  ~DeviceScene() {
    if (*device_) device_.waitIdle();
  }
  DeviceScene(const DeviceScene&) = delete;
  DeviceScene& operator=(const DeviceScene&) = delete;

  [[nodiscard]] vk::PhysicalDeviceProperties properties() const { return physical_.getProperties(); }

  void draw(double position) {
    Frame& frame = frames_[number_ % kAhead];
    waitFor(frame);
    device_.resetFences(*frame.done);
    std::uint32_t image = 0;
    if (options_.has_window) image = swapchain_.acquireNextImage(kPatienceNs, *frame.acquired).second;
    frame.commands.reset();
    frame.commands.begin(vk::CommandBufferBeginInfo(vk::CommandBufferUsageFlagBits::eOneTimeSubmit));
    if (options_.load == SceneLoad::Textures || number_ == 0) stream(frame);
    drawInto(*frame.commands, position);
    if (options_.has_window) copyToWindow(frame.commands, swapchain_images_[image]);
    frame.commands.end();
    submit(frame, image);
    ++number_;
  }

  std::uint64_t checksum() {
    device_.waitIdle();
    Memory read = makeBuffer(bytes(), vk::BufferUsageFlagBits::eTransferDst);
    vk::raii::CommandBuffer commands = newCommands();
    commands.begin(vk::CommandBufferBeginInfo(vk::CommandBufferUsageFlagBits::eOneTimeSubmit));
    commands.copyImageToBuffer(*target_.image, vk::ImageLayout::eTransferSrcOptimal, *read.buffer, wholeImage());
    commands.end();
    queue_.submit(vk::SubmitInfo({}, {}, *commands));
    queue_.waitIdle();
    const auto* pixels = static_cast<const std::uint8_t*>(read.memory.mapMemory(0, bytes()));
    std::uint64_t sum = 0xcbf29ce484222325;  // FNV-1a
    for (std::size_t i = 0; i < bytes(); ++i) sum = (sum ^ pixels[i]) * 0x100000001b3;
    return sum;
  }

 private:
  struct Frame {
    vk::raii::CommandBuffer commands = nullptr;
    vk::raii::Fence done = nullptr;
    vk::raii::Semaphore acquired = nullptr;
    Memory stream;
    std::uint8_t* pixels = nullptr;
  };

  [[nodiscard]] std::size_t bytes() const { return std::size_t{size_} * size_ * 4; }
  [[nodiscard]] vk::Extent3D extent() const { return {size_, size_, 1}; }
  static vk::ImageSubresourceLayers colour() { return {vk::ImageAspectFlagBits::eColor, 0, 0, 1}; }
  static vk::ImageSubresourceRange wholeRange() { return {vk::ImageAspectFlagBits::eColor, 0, 1, 0, 1}; }
  [[nodiscard]] vk::BufferImageCopy wholeImage() const { return {0, 0, 0, colour(), {0, 0, 0}, extent()}; }

  void makeInstance() {
    const vk::ApplicationInfo application("scene", 1, nullptr, 0, VK_API_VERSION_1_1);
    std::vector<const char*> extensions;
    if (options_.has_window) extensions = {VK_KHR_SURFACE_EXTENSION_NAME, VK_KHR_XCB_SURFACE_EXTENSION_NAME};
    instance_ = {context_, vk::InstanceCreateInfo({}, &application, {}, extensions)};
  }

  void makeDevice() {
    const auto families = physical_.getQueueFamilyProperties();
    const auto found = std::find_if(families.begin(), families.end(), [](const auto& family) {
      return static_cast<bool>(family.queueFlags & vk::QueueFlagBits::eGraphics);
    });
    if (found == families.end()) throw std::runtime_error("the device draws nothing");
    family_ = static_cast<std::uint32_t>(found - families.begin());
    const float priority = 1;
    const vk::DeviceQueueCreateInfo queue({}, family_, 1, &priority);
    std::vector<const char*> extensions;
    if (options_.has_window) extensions = {VK_KHR_SWAPCHAIN_EXTENSION_NAME};
    device_ = {physical_, vk::DeviceCreateInfo({}, queue, {}, extensions)};
    queue_ = device_.getQueue(family_, 0);
    pool_ = {device_, vk::CommandPoolCreateInfo(vk::CommandPoolCreateFlagBits::eResetCommandBuffer, family_)};
  }

  // As fast as it can: what is measured is the machine, not the display.
  void makeSwapchain() {
    window_ = std::make_unique<Window>(size_);
    surface_ = {instance_, window_->surface()};
    if (physical_.getSurfaceSupportKHR(family_, *surface_) == VK_FALSE)
      throw std::runtime_error("the device cannot show pictures on this display");
    const auto able = physical_.getSurfaceCapabilitiesKHR(*surface_);
    const auto modes = physical_.getSurfacePresentModesKHR(*surface_);
    const bool is_free = std::find(modes.begin(), modes.end(), vk::PresentModeKHR::eImmediate) != modes.end();
    const vk::SurfaceFormatKHR format = physical_.getSurfaceFormatsKHR(*surface_).at(0);
    const std::uint32_t images = std::max(able.minImageCount, kAhead + 1);
    window_extent_ = able.currentExtent;
    swapchain_ = {device_,
                  vk::SwapchainCreateInfoKHR({}, *surface_, images, format.format, format.colorSpace, window_extent_, 1,
                                             vk::ImageUsageFlagBits::eTransferDst, vk::SharingMode::eExclusive, {},
                                             able.currentTransform, vk::CompositeAlphaFlagBitsKHR::eOpaque,
                                             is_free ? vk::PresentModeKHR::eImmediate : vk::PresentModeKHR::eFifo)};
    for (const VkImage image : swapchain_.getImages()) {
      swapchain_images_.emplace_back(image);
      drawn_.emplace_back(device_, vk::SemaphoreCreateInfo());
    }
  }

  [[nodiscard]] std::uint32_t memoryType(std::uint32_t allowed, vk::MemoryPropertyFlags needed) const {
    const auto memory = physical_.getMemoryProperties();
    for (std::uint32_t i = 0; i < memory.memoryTypeCount; ++i)
      if ((allowed >> i & 1U) != 0 && (memory.memoryTypes[i].propertyFlags & needed) == needed) return i;
    throw std::runtime_error("the device has no memory of the needed kind");
  }

  Memory makeImage(vk::ImageUsageFlags use) {
    Memory made;
    made.image = {device_, vk::ImageCreateInfo({}, vk::ImageType::e2D, kFormat, extent(), 1, 1,
                                               vk::SampleCountFlagBits::e1, vk::ImageTiling::eOptimal, use)};
    const auto needs = made.image.getMemoryRequirements();
    made.memory = {device_, vk::MemoryAllocateInfo(needs.size, memoryType(needs.memoryTypeBits,
                                                                          vk::MemoryPropertyFlagBits::eDeviceLocal))};
    made.image.bindMemory(*made.memory, 0);
    return made;
  }

  Memory makeBuffer(std::size_t size, vk::BufferUsageFlags use) {
    Memory made;
    made.buffer = {device_, vk::BufferCreateInfo({}, size, use)};
    const auto needs = made.buffer.getMemoryRequirements();
    constexpr auto kHost = vk::MemoryPropertyFlagBits::eHostVisible | vk::MemoryPropertyFlagBits::eHostCoherent;
    made.memory = {device_, vk::MemoryAllocateInfo(needs.size, memoryType(needs.memoryTypeBits, kHost))};
    made.buffer.bindMemory(*made.memory, 0);
    return made;
  }

  vk::raii::ImageView viewOf(const Memory& image) {
    return {device_, vk::ImageViewCreateInfo({}, *image.image, vk::ImageViewType::e2D, kFormat, {}, wholeRange())};
  }

  void makePass() {
    const vk::AttachmentDescription target({}, kFormat, vk::SampleCountFlagBits::e1, vk::AttachmentLoadOp::eClear,
                                           vk::AttachmentStoreOp::eStore, vk::AttachmentLoadOp::eDontCare,
                                           vk::AttachmentStoreOp::eDontCare, vk::ImageLayout::eUndefined,
                                           vk::ImageLayout::eTransferSrcOptimal);
    const vk::AttachmentReference colour_target(0, vk::ImageLayout::eColorAttachmentOptimal);
    const vk::SubpassDescription drawing({}, vk::PipelineBindPoint::eGraphics, {}, colour_target);
    // The frame before may still be read; what is drawn is read next.
    const std::array order{
        vk::SubpassDependency(VK_SUBPASS_EXTERNAL, 0, vk::PipelineStageFlagBits::eTransfer,
                              vk::PipelineStageFlagBits::eColorAttachmentOutput, vk::AccessFlagBits::eTransferRead,
                              vk::AccessFlagBits::eColorAttachmentWrite),
        vk::SubpassDependency(0, VK_SUBPASS_EXTERNAL, vk::PipelineStageFlagBits::eColorAttachmentOutput,
                              vk::PipelineStageFlagBits::eTransfer, vk::AccessFlagBits::eColorAttachmentWrite,
                              vk::AccessFlagBits::eTransferRead)};
    pass_ = {device_, vk::RenderPassCreateInfo({}, target, drawing, order)};
    const vk::ImageView view = *target_view_;
    framebuffer_ = {device_, vk::FramebufferCreateInfo({}, *pass_, view, size_, size_, 1)};
  }

  vk::raii::ShaderModule shader(const std::uint32_t* code, std::size_t size) {
    return {device_, vk::ShaderModuleCreateInfo({}, size, code)};
  }

  void makePipeline() {
    const vk::DescriptorSetLayoutBinding binding(0, vk::DescriptorType::eCombinedImageSampler, 1,
                                                 vk::ShaderStageFlagBits::eFragment);
    set_layout_ = {device_, vk::DescriptorSetLayoutCreateInfo({}, binding)};
    const vk::DescriptorPoolSize one(vk::DescriptorType::eCombinedImageSampler, 1);
    sets_ = {device_, vk::DescriptorPoolCreateInfo(vk::DescriptorPoolCreateFlagBits::eFreeDescriptorSet, 1, one)};
    set_ = std::move(vk::raii::DescriptorSets(device_, vk::DescriptorSetAllocateInfo(*sets_, *set_layout_)).front());
    const vk::DescriptorImageInfo image(*sampler_, *field_view_, vk::ImageLayout::eShaderReadOnlyOptimal);
    device_.updateDescriptorSets(vk::WriteDescriptorSet(*set_, 0, 0, vk::DescriptorType::eCombinedImageSampler, image),
                                 {});
    const vk::PushConstantRange push(vk::ShaderStageFlagBits::eVertex | vk::ShaderStageFlagBits::eFragment, 0,
                                     sizeof(Push));
    layout_ = {device_, vk::PipelineLayoutCreateInfo({}, *set_layout_, push)};
    const auto vertex = shader(draw_vert, sizeof draw_vert);
    const auto fragment = shader(draw_frag, sizeof draw_frag);
    const std::array stages{
        vk::PipelineShaderStageCreateInfo({}, vk::ShaderStageFlagBits::eVertex, *vertex, "main"),
        vk::PipelineShaderStageCreateInfo({}, vk::ShaderStageFlagBits::eFragment, *fragment, "main")};
    const vk::PipelineVertexInputStateCreateInfo input;
    const vk::PipelineInputAssemblyStateCreateInfo assembly({}, vk::PrimitiveTopology::eTriangleList);
    const vk::Viewport viewport(0, 0, static_cast<float>(size_), static_cast<float>(size_), 0, 1);
    const vk::Rect2D scissor({0, 0}, {size_, size_});
    const vk::PipelineViewportStateCreateInfo view({}, viewport, scissor);
    vk::PipelineRasterizationStateCreateInfo raster;
    raster.lineWidth = 1;
    const vk::PipelineMultisampleStateCreateInfo samples;
    vk::PipelineColorBlendAttachmentState blend;
    blend.colorWriteMask = vk::ColorComponentFlagBits::eR | vk::ColorComponentFlagBits::eG |
                           vk::ColorComponentFlagBits::eB | vk::ColorComponentFlagBits::eA;
    const vk::PipelineColorBlendStateCreateInfo blending({}, VK_FALSE, vk::LogicOp::eCopy, blend);
    pipeline_ = {device_, nullptr,
                 vk::GraphicsPipelineCreateInfo({}, stages, &input, &assembly, nullptr, &view, &raster, &samples,
                                                nullptr, &blending, nullptr, *layout_, *pass_)};
  }

  vk::raii::CommandBuffer newCommands() {
    return std::move(
        vk::raii::CommandBuffers(device_, vk::CommandBufferAllocateInfo(*pool_, vk::CommandBufferLevel::ePrimary, 1))
            .front());
  }

  void makeFrames() {
    for (Frame& frame : frames_) {
      frame.commands = newCommands();
      frame.done = {device_, vk::FenceCreateInfo(vk::FenceCreateFlagBits::eSignaled)};
      frame.acquired = {device_, vk::SemaphoreCreateInfo()};
      frame.stream = makeBuffer(bytes(), vk::BufferUsageFlagBits::eTransferSrc);
      frame.pixels = static_cast<std::uint8_t*>(frame.stream.memory.mapMemory(0, bytes()));
      for (std::size_t i = 0; i < bytes(); ++i) frame.pixels[i] = static_cast<std::uint8_t>((i * 2654435761U) >> 13U);
    }
  }

  void waitFor(const Frame& frame) {
    if (device_.waitForFences(*frame.done, VK_TRUE, kPatienceNs) != vk::Result::eSuccess)
      throw std::runtime_error("the device does not answer");
  }

  // A picture out of host memory: a row of it is new in every frame.
  void stream(Frame& frame) {
    const std::size_t row = static_cast<std::size_t>(number_) % size_ * size_ * 4;
    std::memset(frame.pixels + row, static_cast<int>(number_ % 251), std::size_t{size_} * 4);
    const auto move = [&](vk::AccessFlags from, vk::AccessFlags to, vk::ImageLayout was, vk::ImageLayout is,
                          vk::PipelineStageFlags before, vk::PipelineStageFlags after) {
      const vk::ImageMemoryBarrier barrier(from, to, was, is, VK_QUEUE_FAMILY_IGNORED, VK_QUEUE_FAMILY_IGNORED,
                                           *field_.image, wholeRange());
      frame.commands.pipelineBarrier(before, after, {}, {}, {}, barrier);
    };
    move(vk::AccessFlagBits::eShaderRead, vk::AccessFlagBits::eTransferWrite, vk::ImageLayout::eUndefined,
         vk::ImageLayout::eTransferDstOptimal, vk::PipelineStageFlagBits::eFragmentShader,
         vk::PipelineStageFlagBits::eTransfer);
    frame.commands.copyBufferToImage(*frame.stream.buffer, *field_.image, vk::ImageLayout::eTransferDstOptimal,
                                     wholeImage());
    move(vk::AccessFlagBits::eTransferWrite, vk::AccessFlagBits::eShaderRead, vk::ImageLayout::eTransferDstOptimal,
         vk::ImageLayout::eShaderReadOnlyOptimal, vk::PipelineStageFlagBits::eTransfer,
         vk::PipelineStageFlagBits::eFragmentShader);
  }

  void drawInto(vk::CommandBuffer commands, double position) {
    const vk::ClearValue dark(vk::ClearColorValue(std::array{0.02F, 0.02F, 0.05F, 1.0F}));
    commands.beginRenderPass(vk::RenderPassBeginInfo(*pass_, *framebuffer_, {{0, 0}, {size_, size_}}, dark),
                             vk::SubpassContents::eInline);
    commands.bindPipeline(vk::PipelineBindPoint::eGraphics, *pipeline_);
    commands.bindDescriptorSets(vk::PipelineBindPoint::eGraphics, *layout_, 0, *set_, {});
    const int draws = options_.load == SceneLoad::Draws ? kStars : 1;
    for (int i = 0; i < draws; ++i) {
      const Push push{static_cast<float>(position), static_cast<std::uint32_t>(options_.load),
                      static_cast<std::uint32_t>(i)};
      commands.pushConstants<Push>(*layout_, vk::ShaderStageFlagBits::eVertex | vk::ShaderStageFlagBits::eFragment, 0,
                                   push);
      commands.draw(3, 1, 0, 0);
    }
    commands.endRenderPass();
  }

  void copyToWindow(const vk::raii::CommandBuffer& commands, vk::Image image) const {
    const auto move = [&](vk::AccessFlags from, vk::AccessFlags to, vk::ImageLayout was, vk::ImageLayout is) {
      const vk::ImageMemoryBarrier barrier(from, to, was, is, VK_QUEUE_FAMILY_IGNORED, VK_QUEUE_FAMILY_IGNORED, image,
                                           wholeRange());
      commands.pipelineBarrier(vk::PipelineStageFlagBits::eTransfer, vk::PipelineStageFlagBits::eTransfer, {}, {}, {},
                               barrier);
    };
    const auto corner = [](std::uint32_t x, std::uint32_t y) {
      return vk::Offset3D(static_cast<std::int32_t>(x), static_cast<std::int32_t>(y), 1);
    };
    move({}, vk::AccessFlagBits::eTransferWrite, vk::ImageLayout::eUndefined, vk::ImageLayout::eTransferDstOptimal);
    const vk::ImageBlit whole(colour(), {vk::Offset3D(), corner(size_, size_)}, colour(),
                              {vk::Offset3D(), corner(window_extent_.width, window_extent_.height)});
    commands.blitImage(*target_.image, vk::ImageLayout::eTransferSrcOptimal, image,
                       vk::ImageLayout::eTransferDstOptimal, whole, vk::Filter::eNearest);
    move(vk::AccessFlagBits::eTransferWrite, {}, vk::ImageLayout::eTransferDstOptimal, vk::ImageLayout::ePresentSrcKHR);
  }

  void submit(const Frame& frame, std::uint32_t image) {
    if (!options_.has_window) return queue_.submit(vk::SubmitInfo({}, {}, *frame.commands), *frame.done);
    const vk::PipelineStageFlags until = vk::PipelineStageFlagBits::eTransfer;
    queue_.submit(vk::SubmitInfo(*frame.acquired, until, *frame.commands, *drawn_[image]), *frame.done);
    (void)queue_.presentKHR(vk::PresentInfoKHR(*drawn_[image], *swapchain_, image));
  }

  const DeviceSceneOptions& options_;
  std::uint32_t size_;
  std::uint32_t family_ = 0;
  std::uint64_t number_ = 0;
  vk::raii::Context context_;
  vk::raii::Instance instance_ = nullptr;
  vk::raii::PhysicalDevice physical_ = nullptr;
  std::unique_ptr<Window> window_;
  vk::raii::SurfaceKHR surface_ = nullptr;
  vk::raii::Device device_ = nullptr;
  vk::raii::Queue queue_ = nullptr;
  vk::raii::SwapchainKHR swapchain_ = nullptr;
  std::vector<vk::Image> swapchain_images_;
  std::vector<vk::raii::Semaphore> drawn_;  // of each image: the display may still wait for it when its frame is over
  vk::Extent2D window_extent_;
  vk::raii::CommandPool pool_ = nullptr;
  Memory target_;
  Memory field_;
  vk::raii::ImageView target_view_ = nullptr;
  vk::raii::ImageView field_view_ = nullptr;
  vk::raii::Sampler sampler_ = nullptr;
  vk::raii::RenderPass pass_ = nullptr;
  vk::raii::Framebuffer framebuffer_ = nullptr;
  vk::raii::DescriptorSetLayout set_layout_ = nullptr;
  vk::raii::DescriptorPool sets_ = nullptr;
  vk::raii::DescriptorSet set_ = nullptr;
  vk::raii::PipelineLayout layout_ = nullptr;
  vk::raii::Pipeline pipeline_ = nullptr;
  std::array<Frame, kAhead> frames_;
};

}  // namespace

core::Result<DeviceSceneSummary> runDeviceScene(const DeviceSceneOptions& options) {
  try {
    DeviceScene scene(options);
    const auto count = runFrames(options.loop, "draw", [&](double position) -> core::Status {
      scene.draw(position);
      return core::Done{};
    });
    if (!count) return count.error();
    const auto properties = scene.properties();
    return DeviceSceneSummary{properties.deviceName, properties.deviceType == vk::PhysicalDeviceType::eCpu, *count,
                              scene.checksum()};
  } catch (const vk::SystemError& e) {
    return Error{ErrorKind::Io, std::string("the graphics driver says: ") + e.what(), "draw",
                 "Update the driver, choose another --device, or a smaller --size"};
  } catch (const std::exception& e) {
    return Error{ErrorKind::Missing, e.what(), "draw", "See the devices with: iron-lever-probe copy --list"};
  }
}

}  // namespace probe
