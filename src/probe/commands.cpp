#include "probe/commands.h"

#include <map>

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "probe/scene_run.h"

namespace probe {

int runCommandLine(int argc, const char* const* argv, std::ostream& out, std::ostream& err) {
  CLI::App app("Small real workloads that run on any machine");
  app.require_subcommand(1);
  CLI::App* scene = app.add_subcommand("scene", "Draw a dome of stars and a nebula in software; log every frame's duration");
  SceneOptions options;
  std::string size = "1k";
  const std::map<std::string, int> pixels{{"1k", 1024}, {"2k", 2048}, {"4k", 4096}};
  scene->add_option("--size", size, "1k, 2k or 4k")->check(CLI::IsMember(pixels));
  scene->add_option("--threads", options.threads, "Threads that draw together");
  auto* seconds = scene->add_option("--seconds", options.seconds, "Draw for so long");
  scene->add_option("--frames", options.frames, "Draw so many frames")->excludes(seconds);
  scene->add_option("--out", options.log_path, "Where the frame log goes (CSV, column frame_ms)");
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& e) {
    return app.exit(e, out, err) == 0 ? 0 : 2;
  }
  if (!options.seconds && !options.frames) options.seconds = 10;
  options.size = pixels.at(size);
  const auto summary = runScene(options);
  if (!summary) {
    err << summary.error().sentence() << '\n';
    return 1;
  }
  out << nlohmann::ordered_json{{"workload", "scene"},
                                {"size", size},
                                {"threads", options.threads},
                                {"frames", summary->frames},
                                {"seconds", summary->seconds},
                                {"average_fps", summary->average_fps},
                                {"checksum", fmt::format("{:016x}", summary->checksum)}}
             .dump()
      << '\n';
  return 0;
}

}  // namespace probe
