#include <algorithm>
#include <array>
#include <fstream>
#include <map>
#include <sstream>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "core/frame_metrics.h"
#include "core/wording.h"
#include "store/log_shape.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::ordered_json;

constexpr std::array kLowPercents{1.0, 0.1};

core::Result<std::string> contentsOf(const std::string& path) {
  std::ifstream file(path, std::ios::binary);
  if (!file)
    return Error{ErrorKind::Missing, "the log cannot be read", path, "Check its name, and that you may read it"};
  std::ostringstream text;
  text << file.rdbuf();
  return text.str();
}

// A person's word goes before what was found out.
core::Status correct(store::LogShape& shape, const MeasureOptions& options) {
  static const std::map<std::string, double> units{{"ms", 1}, {"s", 1e3}, {"us", 1e-3}, {"ns", 1e-6}};
  if (!options.column.empty()) {
    const auto found = std::find(shape.columns.begin(), shape.columns.end(), options.column);
    if (found == shape.columns.end()) {
      std::string known;
      for (const std::string& column : shape.columns) known += (known.empty() ? "'" : ", '") + column + "'";
      return Error{ErrorKind::Missing, "the log has no column '" + options.column + "'", options.path,
                   "Use one of " + known};
    }
    shape.time_column = static_cast<std::size_t>(found - shape.columns.begin());
    shape.meaning = options.are_stamps ? store::TimeMeaning::TimeStamp : store::TimeMeaning::Duration;
  }
  if (options.unit.empty()) return core::Done{};
  const auto unit = units.find(options.unit);
  if (unit == units.end())
    return Error{ErrorKind::OutOfRange, "'" + options.unit + "' is no unit of a frame's time", "--unit",
                 "Use s, ms, us or ns"};
  shape.ms_per_unit = unit->second;
  return core::Done{};
}

ordered_json shapeJson(const store::LogShape& shape) {
  return {{"delimiter", shape.is_json_lines    ? "JSON lines"
                        : shape.delimiter == 0 ? ""
                                               : std::string(1, shape.delimiter)},
          {"decimal_comma", shape.has_decimal_comma},
          {"header", shape.has_header},
          {"columns", shape.columns},
          {"time_column", shape.columns[shape.time_column]},
          {"meaning", shape.meaning == store::TimeMeaning::Duration ? "duration" : "time stamp"},
          {"ms_per_unit", shape.ms_per_unit},
          {"run_column", shape.run_column ? ordered_json(shape.columns[*shape.run_column]) : ordered_json()}};
}

ordered_json lowsJson(const core::Lows& lows) {
  const auto low = [](const core::Low& one) {
    return ordered_json{{"fps", one.fps}, {"rests_on_frames", one.frames}, {"thin", one.isThin()}};
  };
  return {{"percent", lows.percent},
          {"percentile", low(lows.percentile)},
          {"slowest_frames_mean", low(lows.slowest_mean)},
          {"time_share", low(lows.time_share)}};
}

ordered_json runJson(const store::ImportedRun& run, const core::FrameMetrics& metrics, double target_fps) {
  ordered_json out{{"run", run.name},
                   {"frames", metrics.frames},
                   {"seconds", metrics.total_ms / 1000},
                   {"average_fps", metrics.average_fps},
                   {"mean_frame_ms", metrics.mean_frame_ms},
                   {"jitter_ms", metrics.jitter_ms},
                   {"stutters_per_minute", metrics.stutters_per_minute},
                   {"stalls", metrics.stalls.size()},
                   {"stall_total_ms", metrics.stall_total_ms},
                   {"target_fps", target_fps},
                   {"time_below_target_percent", 100 * core::timeBelowTarget(run.frame_ms, target_fps)},
                   {"lows", ordered_json::array()}};
  for (const core::Lows& lows : metrics.lows) out["lows"].push_back(lowsJson(lows));
  return out;
}

std::string runLine(const store::ImportedRun& run, const core::FrameMetrics& metrics) {
  std::string line = fmt::format("  {}: {} frames in {:.2f} s, {}", run.name, metrics.frames, metrics.total_ms / 1000,
                                 core::valueText(metrics.average_fps, "FPS"));
  for (const core::Lows& lows : metrics.lows)
    line += fmt::format(", {:g} % low {}{}", lows.percent, core::valueText(lows.percentile.fps, "FPS"),
                        lows.percentile.isThin() ? " (thin)" : "");
  return line + " (percentile)\n";
}

}  // namespace

core::Status measureCommand(const MeasureOptions& options, std::ostream& out) {
  const auto text = contentsOf(options.path);
  if (!text) return text.error();
  auto shape = store::detectShape(*text, options.path);
  if (!shape) return shape.error();
  if (auto corrected = correct(*shape, options); !corrected) return corrected;
  const auto runs = store::importLog(*text, *shape, options.path);
  if (!runs) return runs.error();
  ordered_json all{{"log", options.path}, {"shape", shapeJson(*shape)}, {"runs", ordered_json::array()}};
  std::string lines;
  for (const store::ImportedRun& run : *runs) {
    const auto metrics = core::frameMetrics(run.frame_ms, kLowPercents);
    if (!metrics) return metrics.error();
    all["runs"].push_back(runJson(run, *metrics, options.target_fps));
    lines += runLine(run, *metrics);
  }
  if (options.as_json) {
    out << all.dump(1) << '\n';
    return core::Done{};
  }
  out << fmt::format("Read as {}s in column '{}', 1 unit = {:g} ms.\n{}",
                     shape->meaning == store::TimeMeaning::Duration ? "duration" : "time stamp",
                     shape->columns[shape->time_column], shape->ms_per_unit, lines);
  return core::Done{};
}

}  // namespace cli
