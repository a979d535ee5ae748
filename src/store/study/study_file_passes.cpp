// What a study file holds of single passes: their rows, frames, samples, outputs and pictures.
#include <fmt/format.h>

#include "store/json/pass_json.h"
#include "store/json/samples_json.h"
#include "store/study/frame_codec.h"
#include "store/study/row_sum.h"
#include "store/study/study_file.h"
#include "store/study/study_rows.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using core::Status;

// A line for each device: its address and how busy it was, in percent.
std::string loadsText(const std::vector<core::DeviceLoad>& loads) {
  std::string text;
  for (const core::DeviceLoad& load : loads) text += fmt::format("{} {:g}\n", load.device, load.busy_percent);
  return text;
}

}  // namespace

core::Result<core::Pass> StudyFile::addPass(core::Pass pass, std::span<const double> frame_ms,
                                            const core::Samples& samples, std::span<const Event> with) {
  if (frame_ms.size() > kMostFrames)
    return Error{ErrorKind::OutOfRange, fmt::format("a pass of {} frames is too long to be kept", frame_ms.size()),
                 path(), fmt::format("Measure a shorter stretch: {} frames at most", kMostFrames)};
  const Status written = database_.inTransaction([&]() -> Status {
    if (auto known = checkLastVisit(); !known) return known;
    auto statement = database_.prepare(
        "INSERT INTO pass (visit_id, slot, attempt, status, failure, started_ms, duration_s, value, frames, output, "
        "error_output, loads, others_busy, settings, samples, presentation, typed, origin, frame_count) "
        "VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, ?15, ?16, ?17, ?18, ?19)");
    if (!statement) return statement.error();
    statement->bind(1, pass.visit_id).bind(2, static_cast<std::int64_t>(pass.slot)).bind(3, std::int64_t{pass.attempt});
    statement->bind(4, static_cast<std::int64_t>(pass.status)).bind(5, std::string_view(pass.failure));
    statement->bind(6, pass.started_ms).bind(7, pass.duration_s).bind(8, pass.value);
    if (!frame_ms.empty()) statement->bind(9, Blob{packFrames(frame_ms)});
    statement->bind(10, Blob{packText(pass.output)}).bind(11, Blob{packText(pass.error_output)});
    statement->bind(12, std::string_view(loadsText(pass.loads))).bind(13, pass.others_busy_percent);
    if (!pass.settings.empty()) statement->bind(14, Blob{packText(pass.settings)});
    if (!samples.empty()) statement->bind(15, Blob{packText(samplesToJson(samples))});
    const std::string presentation = presentationToJson(pass.presentation);
    const std::string typed = typedToJson(pass.typed);
    statement->bind(16, std::string_view(presentation)).bind(17, std::string_view(typed));
    statement->bind(18, std::string_view(pass.origin));
    if (!frame_ms.empty()) statement->bind(19, static_cast<std::int64_t>(frame_ms.size()));
    if (auto filed = insertRow("pass", *statement); !filed) return filed;
    pass.id = database_.lastInsertId();
    for (const Event& event : with)
      if (auto noted = insertEvent(event); !noted) return noted;
    if (auto filed = addResults(pass); !filed) return filed;
    return addFrameChannels(pass.id, samples.by_frame);
  });
  if (!written) return written.error();
  pass.samples = core::summarize(samples);
  pass.throttled = core::throttlings(samples);
  pass.unread = samples.unread;
  return pass;
}

Status StudyFile::addResults(const core::Pass& pass) {
  for (std::size_t i = 0; i < pass.further.size(); ++i) {
    const core::FurtherValue& one = pass.further[i];
    auto statement = database_.prepare("INSERT INTO result (pass_id, place, value, reason) VALUES (?1, ?2, ?3, ?4)");
    if (!statement) return statement.error();
    statement->bind(1, pass.id).bind(2, static_cast<std::int64_t>(i + 1)).bind(3, one.value);
    if (auto filed = insertRow("result", statement->bind(4, std::string_view(one.reason))); !filed) return filed;
  }
  std::vector<std::pair<std::string, std::string>> possible;
  if (!pass.does_not_run.empty()) possible.emplace_back("", pass.does_not_run);
  for (const std::string& one : pass.conditions) possible.emplace_back(one, "");
  for (const auto& [condition, reason] : possible) {
    auto statement = database_.prepare("INSERT INTO possible (pass_id, condition, reason) VALUES (?1, ?2, ?3)");
    if (!statement) return statement.error();
    statement->bind(1, pass.id).bind(2, std::string_view(condition)).bind(3, std::string_view(reason));
    if (auto filed = insertRow("possible", *statement); !filed) return filed;
  }
  if (pass.companion_output.empty()) return core::Done{};
  auto statement = database_.prepare("INSERT INTO companion (pass_id, output) VALUES (?1, ?2)");
  if (!statement) return statement.error();
  statement->bind(1, pass.id).bind(2, Blob{packText(pass.companion_output)});
  return insertRow("companion", *statement);
}

Status StudyFile::addFrameChannels(std::int64_t pass_id, std::span<const core::Channel> channels) {
  for (const core::Channel& channel : channels) {
    auto statement =
        database_.prepare("INSERT INTO frame_channel (pass_id, name, unit, frame_values) VALUES (?1, ?2, ?3, ?4)");
    if (!statement) return statement.error();
    statement->bind(1, pass_id).bind(2, std::string_view(channel.name)).bind(3, std::string_view(channel.unit));
    if (auto filed = insertRow("frame_channel", statement->bind(4, Blob{packFrames(channel.values)})); !filed)
      return filed;
  }
  return core::Done{};
}

// Columns of one pass, where its row is what was written.
core::Result<Statement> StudyFile::passRow(const char* columns, std::int64_t pass_id) {
  auto statement = database_.prepare(
      fmt::format("SELECT sum IS row_sum({}), {} FROM pass WHERE id = ?1", summedColumns("pass"), columns));
  if (!statement) return statement;
  const auto row = statement->bind(1, pass_id).step();
  if (!row) return row.error();
  if (!*row) return Error{ErrorKind::Missing, "there is no such pass", path(), "Open the study again"};
  if (statement->integer(0) != 1) return damagedRow(path(), fmt::format("pass {} is not what was written", pass_id));
  return statement;
}

core::Result<std::vector<double>> StudyFile::frames(std::int64_t pass_id) {
  const auto row = passRow("frames, frame_count", pass_id);
  if (!row) return row.error();
  if (row->isNull(1)) return std::vector<double>{};
  return unpackFrames(row->blob(1), row->isNull(2) ? std::nullopt : std::optional(row->integer(2)));
}

core::Result<core::Samples> StudyFile::samples(std::int64_t pass_id) {
  const auto row = passRow("samples, frame_count", pass_id);
  if (!row) return row.error();
  auto samples = row->isNull(1) ? core::Samples{} : unpackSamples(row->blob(1));
  if (!samples || row->isNull(2)) return samples;
  auto by_frame = frameChannels(pass_id, row->integer(2));
  if (!by_frame) return by_frame.error();
  samples->by_frame = *std::move(by_frame);
  return samples;
}

core::Result<std::vector<core::Channel>> StudyFile::frameChannels(std::int64_t pass_id, std::int64_t frames) {
  auto statement = database_.prepare(fmt::format(
      "SELECT sum IS row_sum({}), name, unit, frame_values FROM frame_channel WHERE pass_id = ?1 ORDER BY id",
      summedColumns("frame_channel")));
  if (!statement) return statement.error();
  statement->bind(1, pass_id);
  std::vector<core::Channel> channels;
  for (auto row = statement->step();; row = statement->step()) {
    if (!row) return row.error();
    if (!*row) return channels;
    auto values = unpackFrames(statement->blob(3), frames);
    if (statement->integer(0) != 1 || !values)
      return damagedRow(path(), fmt::format("what the frames of pass {} tell is not what was written", pass_id));
    channels.push_back({statement->text(1), statement->text(2), core::ChannelRole::Frame, "frames", {}, *values});
  }
}

core::Result<StudyFile::Output> StudyFile::output(std::int64_t pass_id) {
  const auto row = passRow("output, error_output", pass_id);
  if (!row) return row.error();
  auto output = unpackText(row->blob(1));
  if (!output) return output.error();
  auto error_output = unpackText(row->blob(2));
  if (!error_output) return error_output.error();
  auto of_companion = companionOutput(pass_id);
  if (!of_companion) return of_companion.error();
  return Output{*std::move(output), *std::move(error_output), *std::move(of_companion)};
}

core::Result<std::string> StudyFile::companionOutput(std::int64_t pass_id) {
  auto statement = database_.prepare(
      fmt::format("SELECT sum IS row_sum({}), output FROM companion WHERE pass_id = ?1", summedColumns("companion")));
  if (!statement) return statement.error();
  const auto row = statement->bind(1, pass_id).step();
  if (!row) return row.error();
  if (!*row) return std::string();
  if (statement->integer(0) != 1)
    return damagedRow(path(), fmt::format("what ran beside pass {} is not what was written", pass_id));
  return unpackText(statement->blob(1));
}

}  // namespace store
