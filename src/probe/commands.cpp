#include "probe/commands.h"

#include <functional>

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include "probe/answers.h"
#include "probe/options.h"

namespace probe {
namespace {

// Each returns a command whose part of the command line is written to the options when the line is parsed.

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

}  // namespace

int runCommandLine(int argc, const char* const* argv, std::ostream& out, std::ostream& err) {
  CLI::App app("Small real workloads and measurements that run on any machine");
  app.set_version_flag("--version", "iron-lever-probe " IRON_LEVER_VERSION);
  app.require_subcommand(1);
  Options options;
  const std::pair<CLI::App*, std::function<Answer()>> commands[] = {
      {addScene(app, options), [&] { return sceneAnswer(options); }},
      {addDraw(app, options), [&] { return drawAnswer(options); }},
      {addMemory(app, options), [&] { return memoryAnswer(options); }},
      {addMemoryTest(app, options), [&] { return memoryTestAnswer(options); }},
      {addCompute(app, options), [&] { return computeAnswer(options); }},
      {addStorage(app, options), [&] { return storageAnswer(options); }},
      {addCopy(app, options), [&] { return copyAnswer(options); }}};
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
