#include "session/log_import.h"

#include <QDateTime>
#include <QFileInfo>

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

}  // namespace

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
  return reading;
}

core::Result<LogReading> readLog(const std::string& path, const store::BenchRegister& benches,
                                 const std::string& bench) {
  auto reading = recogniseLog(path, benches, bench);
  if (!reading) return reading;
  if (auto read = readRuns(*reading, reading->shape.time); !read) return read.error();
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

Session::OutsideFrames framesOf(const LogReading& reading, std::size_t run) {
  const store::ImportedRun& imported = reading.runs.at(run);
  const QFileInfo file(QString::fromStdString(reading.path));
  Session::OutsideFrames outside;
  outside.frame_ms.assign(imported.frame_ms.begin(), imported.frame_ms.end());
  outside.started_ms = file.lastModified().toMSecsSinceEpoch();
  outside.origin = fmt::format("{}, {}, read as {} in '{}'", file.fileName().toStdString(), imported.name,
                               reading.shape.time.meaning == store::TimeMeaning::Duration ? "durations" : "time stamps",
                               reading.shape.columns[reading.shape.time.column]);
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
