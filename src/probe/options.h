#pragma once

#include <map>
#include <string>

#include "probe/compute_probe.h"
#include "probe/copy_probe.h"
#include "probe/device_scene.h"
#include "probe/memory_probe.h"
#include "probe/memory_test.h"
#include "probe/scene_run.h"
#include "probe/storage_probe.h"

namespace probe {

/// What the command line says of each command, and the usual values where it says nothing.
struct Options {
  SceneOptions scene;
  DeviceSceneOptions draw;
  std::string load = "shading";
  std::string size = "1k";
  std::string pages = "huge";
  MemoryOptions memory;
  ComputeOptions compute;
  StorageOptions storage;
  CopyOptions copy;
  MemoryTestOptions memory_test;
  bool lists_devices = false;
};

/// Pixels along an edge of a picture, by its name.
const std::map<std::string, int>& sizes();
/// The loads of the scene on a graphics device, by name.
const std::map<std::string, SceneLoad>& loads();

}  // namespace probe
