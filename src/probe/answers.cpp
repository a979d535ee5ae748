#include "probe/answers.h"

#include <unistd.h>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "probe/crew.h"

namespace probe {
namespace {

using nlohmann::ordered_json;

constexpr const char* kBytesCounted = "each once";

ordered_json json(const Measurements& measured) {
  return {{"median", measured.median()},
          {"lowest", measured.lowest()},
          {"highest", measured.highest()},
          {"values", measured.values}};
}

// The memory's size by its number of pages.
double meanPageKib(double huge_percent) {
  const double base = static_cast<double>(::sysconf(_SC_PAGESIZE)) / 1024;
  constexpr double kHuge = 2048;
  return 100 / (huge_percent / kHuge + (100 - huge_percent) / base);
}

}  // namespace

Answer sceneAnswer(Options& options) {
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

Answer drawAnswer(Options& options) {
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

Answer memoryAnswer(Options& options) {
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

Answer memoryTestAnswer(Options& options) {
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

Answer computeAnswer(Options& options) {
  if (options.compute.threads == 0) options.compute.threads = usableProcessors();
  const auto readings = measureCompute(options.compute);
  if (!readings) return readings.error();
  return ordered_json{{"workload", "compute"},
                      {"threads", options.compute.threads},
                      {"million_steps", options.compute.million_steps},
                      {"seconds", json(readings->seconds)},
                      {"checksum", fmt::format("{:016x}", readings->checksum)}};
}

Answer storageAnswer(const Options& options) {
  const auto readings = measureStorage(options.storage);
  if (!readings) return readings.error();
  return ordered_json{{"workload", "storage"},
                      {"mib", options.storage.mib},
                      {"read_GBps", json(readings->read_GBps)},
                      {"access_us", json(readings->access_us)}};
}

Answer copyAnswer(const Options& options) {
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

}  // namespace probe
