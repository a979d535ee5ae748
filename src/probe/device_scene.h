#pragma once

#include <cstdint>
#include <string>

#include "core/values/result.h"
#include "probe/frame_loop.h"

namespace probe {

/// What a scene asks of the machine.
enum class SceneLoad {
  Shading,   ///< arithmetic for every pixel: the device's own speed
  Textures,  ///< a picture streamed to the device for every frame: the link, or host memory
  Draws      ///< many small draw calls: the processor
};

struct DeviceSceneOptions {
  std::size_t device = 0;  ///< as vulkanDevices() lists them
  int size = 1024;         ///< pixels each way; of a streamed picture too
  SceneLoad load = SceneLoad::Shading;
  bool has_window = false;  ///< shown in a window of its own on the X display; else drawn where nobody sees it
  FrameLoop loop;
};

struct DeviceSceneSummary {
  std::string device;
  bool is_software = false;
  FrameCount count;
  std::uint64_t checksum = 0;  ///< of the last picture
};

/// Draws a scene on a graphics device by Vulkan, always along the same path, at most two frames ahead of the device.
/// Errors  those of runFrames; Missing: no such device, no display; Io: the driver's own
[[nodiscard]] core::Result<DeviceSceneSummary> runDeviceScene(const DeviceSceneOptions& options);

}  // namespace probe
