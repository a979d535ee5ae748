#include "probe/commands.h"

#include <unistd.h>

#include <algorithm>
#include <functional>
#include <map>

#include <fmt/format.h>
#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include "probe/compute_probe.h"
#include "probe/copy_probe.h"
#include "probe/crew.h"
#include "probe/device_scene.h"
#include "probe/memory_probe.h"
#include "probe/memory_test.h"
#include "probe/scene_run.h"
#include "probe/storage_probe.h"

namespace probe {
namespace {

using nlohmann::ordered_json;

constexpr const char* kBytesCounted = "each once";

/// A command of the probe: its part of the command line, and what it prints.
using Answer = core::Result<ordered_json>;

ordered_json json(const Measurements& measured) {
  return {{"median", measured.median()},
          {"lowest", measured.lowest()},
          {"highest", measured.highest()},
          {"values", measured.values}};
}

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

const std::map<std::string, int>& sizes() {
  static const std::map<std::string, int> pixels{{"1k", 1024}, {"2k", 2048}, {"4k", 4096}};
  return pixels;
}

CLI::App* addScene(CLI::App& app, Options& options) {
  CLI::App* scene =
      app.add_subcommand("scene", "Draw a dome of stars and a nebula in software; log every frame's duration");
  scene->add_option("--size", options.size, "1k, 2k or 4k")->check(CLI::IsMember(sizes()));
  scene->add_option("--threads", options.scene.threads, "Threads that draw together");
  auto* seconds = scene->add_option("--seconds", options.scene.loop.seconds, "Draw for so long");
  scene->add_option("--frames", options.scene.loop.frames, "Draw so many frames")->excludes(seconds);
  scene->add_option("--out", options.scene.loop.log_path, "Where the frame log goes (CSV, column frame_ms)");
  return scene;
}

const std::map<std::string, SceneLoad>& loads() {
  static const std::map<std::string, SceneLoad> all{
      {"shading", SceneLoad::Shading}, {"textures", SceneLoad::Textures}, {"draws", SceneLoad::Draws}};
  return all;
}

CLI::App* addDraw(CLI::App& app, Options& options) {
  CLI::App* draw =
      app.add_subcommand("draw", "Draw the dome on a graphics device (Vulkan); log every frame's duration");
  draw->add_option("--load", options.load, "shading: the device; textures: the link to it; draws: the processor")
      ->check(CLI::IsMember(loads()));
  draw->add_option("--size", options.size, "1k, 2k or 4k")->check(CLI::IsMember(sizes()));
  draw->add_flag("--window", options.draw.has_window, "Show it in a window on the X display");
  auto* device = draw->add_option("--device", options.copy.device, "Which one, from 0");
  draw->add_option("--pci", options.copy.pci, "Which one, by PCI address such as 0000:03:00.0")->excludes(device);
  auto* seconds = draw->add_option("--seconds", options.draw.loop.seconds, "Draw for so long");
  draw->add_option("--frames", options.draw.loop.frames, "Draw so many frames")->excludes(seconds);
  draw->add_option("--out", options.draw.loop.log_path, "Where the frame log goes (CSV, column frame_ms)");
  return draw;
}

CLI::App* addMemory(CLI::App& app, Options& options) {
  CLI::App* memory = app.add_subcommand("memory", "Read and copy main memory; latency of a load; real clock of a core");
  memory->add_option("--mib", options.memory.mib, "Size of each of two buffers, MiB; 0: what no cache holds");
  memory->add_option("--pages", options.pages, "huge: 2 MiB where the kernel gives them; base: the machine's own")
      ->check(CLI::IsMember({"huge", "base"}));
  memory->add_option("--threads", options.memory.threads,
                     "Threads that share them; 0: one for each processor that it may use");
  memory->add_option("--repeats", options.memory.repeats, "Measurements of each");
  return memory;
}

CLI::App* addMemoryTest(CLI::App& app, Options& options) {
  CLI::App* test = app.add_subcommand("memory-test", "Write and read back main memory; any error ends it with code 1");
  test->add_option("--mib", options.memory_test.mib, "Tested at once, MiB; 0: half of what is free");
  test->add_option("--seconds", options.memory_test.seconds, "For how long");
  test->add_option("--threads", options.memory_test.threads,
                   "Threads that share it; 0: one for each processor that it may use")
      ->default_val(0);
  return test;
}

CLI::App* addCompute(CLI::App& app, Options& options) {
  CLI::App* compute = app.add_subcommand("compute", "A fixed amount of integer work, shared among threads");
  compute->add_option("--threads", options.compute.threads,
                      "Threads that share it; 0: one for each processor that it may use");
  compute->add_option("--million-steps", options.compute.million_steps, "The work, in millions of steps");
  compute->add_option("--repeats", options.compute.repeats, "Measurements");
  return compute;
}

CLI::App* addStorage(CLI::App& app, Options& options) {
  CLI::App* storage =
      app.add_subcommand("storage", "Read a file of our own directly from the drive; it is removed afterwards");
  storage->add_option("--folder", options.storage.folder, "A folder on the drive");
  storage->add_option("--mib", options.storage.mib, "Size of the file, MiB");
  storage->add_option("--repeats", options.storage.repeats, "Measurements of each");
  return storage;
}

CLI::App* addCopy(CLI::App& app, Options& options) {
  CLI::App* copy = app.add_subcommand("copy", "Copy between host memory and a graphics device, both ways (Vulkan)");
  copy->add_flag("--list", options.lists_devices, "Only name the devices");
  auto* device = copy->add_option("--device", options.copy.device, "Which one, from 0");
  copy->add_option("--pci", options.copy.pci, "Which one, by PCI address such as 0000:03:00.0")->excludes(device);
  copy->add_option("--mib", options.copy.mib, "Size of a copy, MiB");
  copy->add_option("--repeats", options.copy.repeats, "Measurements of each");
  return copy;
}

Answer scene(Options& options) {
  if (!options.scene.loop.seconds && !options.scene.loop.frames) options.scene.loop.seconds = 10;
  options.scene.size = sizes().at(options.size);
  const auto summary = runScene(options.scene);
  if (!summary) return summary.error();
  return ordered_json{{"workload", "scene"},
                      {"size", options.size},
                      {"threads", options.scene.threads},
                      {"frames", summary->count.frames},
                      {"seconds", summary->count.seconds},
                      {"average_fps", summary->count.average_fps},
                      {"checksum", fmt::format("{:016x}", summary->checksum)}};
}

Answer draw(Options& options) {
  if (!options.draw.loop.seconds && !options.draw.loop.frames) options.draw.loop.seconds = 10;
  const auto device = chosenDevice(options.copy, "draw");
  if (!device) return device.error();
  options.draw.device = *device;
  options.draw.size = sizes().at(options.size);
  options.draw.load = loads().at(options.load);
  const auto summary = runDeviceScene(options.draw);
  if (!summary) return summary.error();
  return ordered_json{{"workload", "draw"},
                      {"load", options.load},
                      {"size", options.size},
                      {"device", summary->device},
                      {"is_software", summary->is_software},
                      {"frames", summary->count.frames},
                      {"seconds", summary->count.seconds},
                      {"average_fps", summary->count.average_fps},
                      {"checksum", fmt::format("{:016x}", summary->checksum)}};
}

// The memory's size by its number of pages.
double meanPageKib(double huge_percent) {
  const double base = static_cast<double>(::sysconf(_SC_PAGESIZE)) / 1024;
  constexpr double kHuge = 2048;
  return 100 / (huge_percent / kHuge + (100 - huge_percent) / base);
}

Answer memory(Options& options) {
  if (options.memory.threads == 0) options.memory.threads = usableProcessors();
  options.memory.is_huge = options.pages == "huge";
  const auto readings = measureMemory(options.memory);
  if (!readings) return readings.error();
  return ordered_json{{"workload", "memory"},
                      {"mib", readings->mib},
                      {"threads", options.memory.threads},
                      {"pages", options.pages},
                      {"huge_page_percent", readings->huge_page_percent},
                      {"page_KiB", {{"values", {meanPageKib(readings->huge_page_percent)}}}},
                      {"bytes", kBytesCounted},
                      {"read_GBps", json(readings->read_GBps)},
                      {"copied_GBps", json(readings->copied_GBps)},
                      {"latency_ns", json(readings->latency_ns)},
                      {"clock_GHz", json(readings->clock_GHz)}};
}

Answer memoryTest(Options& options) {
  if (options.memory_test.threads == 0) options.memory_test.threads = usableProcessors();
  const auto result = testMemory(options.memory_test);
  if (!result) return result.error();
  if (result->errors > 0)
    return core::Error{core::ErrorKind::CommandFailed,
                       fmt::format("{} words of memory came back different from what was written", result->errors),
                       fmt::format("{} MiB, {} rounds", result->mib, result->rounds),
                       "Lower the profile or its speed; never trust results or data at this level"};
  return ordered_json{{"workload", "memory-test"},      {"mib", result->mib},
                      {"rounds", result->rounds},       {"threads", options.memory_test.threads},
                      {"tested_GB", result->tested_GB}, {"covered_percent", result->covered_percent},
                      {"cannot_find", kNotFoundByTest}, {"errors", result->errors}};
}

Answer compute(Options& options) {
  if (options.compute.threads == 0) options.compute.threads = usableProcessors();
  const auto readings = measureCompute(options.compute);
  if (!readings) return readings.error();
  return ordered_json{{"workload", "compute"},
                      {"threads", options.compute.threads},
                      {"million_steps", options.compute.million_steps},
                      {"seconds", json(readings->seconds)},
                      {"checksum", fmt::format("{:016x}", readings->checksum)}};
}

Answer storage(const Options& options) {
  const auto readings = measureStorage(options.storage);
  if (!readings) return readings.error();
  return ordered_json{{"workload", "storage"},
                      {"mib", options.storage.mib},
                      {"read_GBps", json(readings->read_GBps)},
                      {"access_us", json(readings->access_us)}};
}

Answer copy(const Options& options) {
  if (options.lists_devices) {
    const auto devices = vulkanDevices();
    if (!devices) return devices.error();
    ordered_json list = ordered_json::array();
    for (const VulkanDevice& one : *devices)
      list.push_back({{"name", one.name}, {"pci", one.pci}, {"driver", one.driver}});
    return ordered_json{{"devices", list}};
  }
  const auto readings = measureCopy(options.copy);
  if (!readings) return readings.error();
  return ordered_json{{"workload", "copy"},
                      {"device", readings->device},
                      {"is_software", readings->is_software},
                      {"mib", options.copy.mib},
                      {"bytes", kBytesCounted},
                      {"to_device_GBps", json(readings->to_device_GBps)},
                      {"to_host_GBps", json(readings->to_host_GBps)}};
}

}  // namespace

int runCommandLine(int argc, const char* const* argv, std::ostream& out, std::ostream& err) {
  CLI::App app("Small real workloads and measurements that run on any machine");
  app.set_version_flag("--version", "iron-lever-probe " IRON_LEVER_VERSION);
  app.require_subcommand(1);
  Options options;
  const std::pair<CLI::App*, std::function<Answer()>> commands[] = {
      {addScene(app, options), [&] { return scene(options); }},
      {addDraw(app, options), [&] { return draw(options); }},
      {addMemory(app, options), [&] { return memory(options); }},
      {addMemoryTest(app, options), [&] { return memoryTest(options); }},
      {addCompute(app, options), [&] { return compute(options); }},
      {addStorage(app, options), [&] { return storage(options); }},
      {addCopy(app, options), [&] { return copy(options); }}};
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& e) {
    return app.exit(e, out, err) == 0 ? 0 : 2;
  }
  for (const auto& [command, run] : commands) {
    if (!command->parsed()) continue;
    const Answer answer = run();
    if (!answer) {
      err << answer.error().sentence() << '\n';
      return 1;
    }
    out << answer->dump() << '\n';
  }
  return 0;
}

}  // namespace probe
