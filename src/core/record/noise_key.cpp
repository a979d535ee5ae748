#include "core/record/noise_key.h"

#include <fmt/format.h>
#include <fmt/ranges.h>

namespace core {
namespace {

// A program that sets it, a file that is written, the environment of the passes, a person.
const char* wayOf(const Level& level) {
  if (!level.set_command.empty()) return "command";
  if (!level.writes.empty()) return "written";
  return level.environment.empty() && level.prefix.empty() ? "by hand" : "environment";
}

}  // namespace

NoiseKey noiseKeyOf(const Study& study, std::size_t case_index) {
  const Case& one = study.cases[case_index];
  const Metric& metric = one.metric;
  NoiseKey key;
  key.measured = fmt::format("{}\n{}\n{}\n{}\n{}\n{}\n{}\n{}\n{}\n{}\n{}\n{}", fmt::join(one.command, "\t"),
                             static_cast<int>(one.source), one.recorded_program, one.field, metric.name, metric.unit,
                             static_cast<int>(metric.direction), static_cast<int>(metric.scale), one.trim_first_s,
                             one.trim_last_s, one.is_played ? one.played_s : 0, one.settings_file);
  for (const std::string& place : {one.pattern, one.path})
    if (!place.empty()) key.measured += "\n" + place;
  if (one.divide_by != 1) key.measured += fmt::format("\nby {}", one.divide_by);
  for (const auto& [name, value] : one.declared) key.measured += fmt::format("\n{}={}", name, value);
  const Variable& variable = study.variable();
  key.flip = fmt::format("{}\n{}", variable.kind, wayOf(variable.levels[variable.baseline]));
  return key;
}

}  // namespace core
