#include "session/study/log_import.h"

#include <QDateTime>
#include <QFileInfo>
#include <algorithm>
#include <array>

#include <fmt/format.h>

namespace session {
namespace {

// As store::ImportedRun::others counts them: every column but the time and the run.
std::vector<std::string> otherColumns(const store::LogShape& shape) {
  std::vector<std::string> names;
  for (std::size_t i = 0; i < shape.columns.size(); ++i)
    if (i != shape.time.column && shape.run_column != i) names.push_back(shape.columns[i]);
  return names;
}

constexpr std::array<std::pair<const char*, double>, 4> kUnits{{{"ms", 1}, {"s", 1e3}, {"us", 1e-3}, {"ns", 1e-6}}};

const char* unitName(double ms_per_unit) {
  const auto unit = std::find_if(kUnits.begin(), kUnits.end(), [&](const auto& u) { return u.second == ms_per_unit; });
  return unit == kUnits.end() ? "a unit of its own" : unit->first;
}

}  // namespace

std::string LogReading::column() const { return shape.columns.at(shape.time.column); }

std::string LogReading::sentence() const {
  return fmt::format("{} in {} in '{}'",
                     shape.time.meaning == store::TimeMeaning::Duration ? "durations" : "time stamps",
                     unitName(shape.time.ms_per_unit), column());
}

core::Result<double> unitNamed(const std::string& unit) {
  for (const auto& [name, ms] : kUnits)
    if (unit == name) return ms;
  return core::Error{core::ErrorKind::OutOfRange, fmt::format("'{}' is not a unit of time", unit), "--unit",
                     "Use ms, s, us or ns"};
}

core::Error unitNotSaid(const store::LogShape& shape, const std::string& path) {
  return {core::ErrorKind::Ambiguous,
          fmt::format("It is not clear which unit the times of '{}' are in", shape.columns.at(shape.time.column)), path,
          fmt::format("Look at its numbers and add --unit {}, or whichever it is", unitName(shape.time.ms_per_unit))};
}

core::Result<LogReading> recogniseLog(const std::string& path, const store::BenchRegister& benches,
                                      const std::string& bench) {
  LogReading reading;
  reading.path = path;
  auto head = store::headOfLog(path);
  if (!head) return head.error();
  auto shape = store::detectShape(*head, path);
  if (!shape) return shape.error();
  constexpr std::size_t kShown = 4096;
  reading.head = head->substr(0, kShown);
  const auto known = benches.logRecipe(bench, *shape);
  reading.is_remembered = known && *known;
  reading.shape = reading.is_remembered ? **known : *shape;
  // What was confirmed for one log without names holds for the next only where it yields likely frames there too.
  reading.needs_unit = reading.is_remembered ? !store::isLikelyUnit(*head, reading.shape) : !shape->is_unit_sure;
  return reading;
}

core::Result<LogReading> readLog(const std::string& path, const store::BenchRegister& benches, const std::string& bench,
                                 std::optional<double> ms_per_unit) {
  auto reading = recogniseLog(path, benches, bench);
  if (!reading) return reading;
  store::TimeReading time = reading->shape.time;
  if (ms_per_unit) time.ms_per_unit = *ms_per_unit;
  if (reading->needs_unit && !ms_per_unit) return unitNotSaid(reading->shape, path);
  reading->needs_unit = false;
  if (auto read = readRuns(*reading, time); !read) return read.error();
  return reading;
}

core::Status readRuns(LogReading& reading, const store::TimeReading& time) {
  reading.shape.time = time;
  reading.runs.clear();
  auto runs = store::importLogFile(reading.path, reading.shape);
  if (!runs) return runs.error();
  reading.runs = *std::move(runs);
  return core::Done{};
}

OutsideFrames framesOf(const LogReading& reading, std::size_t run) {
  const store::ImportedRun& imported = reading.runs.at(run);
  const QFileInfo file(QString::fromStdString(reading.path));
  OutsideFrames outside;
  outside.frame_ms.assign(imported.frame_ms.begin(), imported.frame_ms.end());
  outside.started_ms = file.lastModified().toMSecsSinceEpoch();
  outside.origin = fmt::format("{}, {}, read as {}", file.fileName().toStdString(), imported.name, reading.sentence());
  const std::vector<std::string> names = otherColumns(reading.shape);
  if (imported.others.empty() || imported.others.size() > names.size()) return outside;
  double at_s = 0;
  for (const double frame_ms : imported.frame_ms) {
    outside.samples.at_s.push_back(at_s);
    at_s += frame_ms / 1000;
  }
  for (std::size_t i = 0; i < imported.others.size(); ++i) {
    core::Channel channel;
    channel.name = names[i];
    channel.part = "log";
    channel.values.assign(imported.others[i].begin(), imported.others[i].end());
    outside.samples.channels.push_back(std::move(channel));
  }
  return outside;
}

}  // namespace session
