#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/compute/frames_json.h"
#include "session/study/log_import.h"
#include "store/json/json_text.h"
#include "store/logs/log_shape.h"

namespace cli {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::ordered_json;

// A person's word goes before what was found out.
core::Status correct(store::LogShape& shape, const std::string& head, const MeasureOptions& options) {
  if (!options.column.empty()) {
    const auto found = std::find(shape.columns.begin(), shape.columns.end(), options.column);
    if (found == shape.columns.end()) {
      std::string known;
      for (const std::string& column : shape.columns) known += (known.empty() ? "'" : ", '") + column + "'";
      return Error{ErrorKind::Missing, "the log has no column '" + options.column + "'", options.path,
                   "Use one of " + known};
    }
    shape.time = store::timeReadingOf(head, shape, static_cast<std::size_t>(found - shape.columns.begin()));
    if (options.are_stamps) shape.time.meaning = store::TimeMeaning::TimeStamp;
  }
  if (!options.unit.empty()) {
    const auto unit = session::unitNamed(options.unit);
    if (!unit) return unit.error();
    shape.time.ms_per_unit = *unit;
  } else if (!shape.is_unit_sure) {
    return session::unitNotSaid(shape, options.path);
  }
  return core::Done{};
}

ordered_json shapeJson(const store::LogShape& shape) {
  return {{"delimiter", shape.is_json_lines    ? "JSON lines"
                        : shape.delimiter == 0 ? ""
                                               : std::string(1, shape.delimiter)},
          {"decimal_comma", shape.has_decimal_comma},
          {"header", shape.has_header},
          {"columns", shape.columns},
          {"time_column", shape.columns[shape.time.column]},
          {"meaning", shape.time.meaning == store::TimeMeaning::Duration ? "duration" : "time stamp"},
          {"ms_per_unit", shape.time.ms_per_unit},
          {"run_column", shape.run_column ? ordered_json(shape.columns[*shape.run_column]) : ordered_json()}};
}

}  // namespace

core::Status measureCommand(const MeasureOptions& options, std::ostream& out) {
  const auto head = store::headOfLog(options.path);
  if (!head) return head.error();
  auto shape = store::detectShape(*head, options.path);
  if (!shape) return shape.error();
  if (auto corrected = correct(*shape, *head, options); !corrected) return corrected;
  const auto runs = store::importLogFile(options.path, *shape);
  if (!runs) return runs.error();
  ordered_json all{{"log", options.path}, {"shape", shapeJson(*shape)}, {"runs", ordered_json::array()}};
  std::string lines;
  for (const store::ImportedRun& run : *runs) {
    const auto said = framesJson(run, options.target_fps);
    if (!said) return said.error();
    all["runs"].push_back(*said);
    lines += framesLine(run);
  }
  if (options.as_json) {
    out << store::jsonText(all, 1) << '\n';
    return core::Done{};
  }
  out << fmt::format("Read as {}s in column '{}', 1 unit = {:g} ms.\n{}",
                     shape->time.meaning == store::TimeMeaning::Duration ? "duration" : "time stamp",
                     shape->columns[shape->time.column], shape->time.ms_per_unit, lines);
  return core::Done{};
}

}  // namespace cli
