#include "store/study/study_rows.h"

#include <algorithm>
#include <cmath>
#include <filesystem>

#include <fmt/format.h>

#include "core/findings/secondary.h"
#include "core/values/number_text.h"
#include "store/json/capture_json.h"
#include "store/json/measurement_json.h"
#include "store/json/pass_json.h"
#include "store/json/samples_json.h"
#include "store/study/act_row.h"
#include "store/study/frame_codec.h"
#include "store/study/row_sum.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using core::Status;

constexpr std::int64_t kMostAttempts = 1'000'000;

// A line for each device: its address and how busy it was, in percent.
std::vector<core::DeviceLoad> loadsFrom(const std::string& text) {
  std::vector<core::DeviceLoad> loads;
  for (std::size_t begin = 0; begin < text.size();) {
    const std::size_t end = std::min(text.find('\n', begin), text.size());
    const std::string_view line = std::string_view(text).substr(begin, end - begin);
    begin = end + 1;
    const std::size_t blank = line.find(' ');
    if (blank == std::string_view::npos) continue;
    if (const auto busy = core::numberOf(line.substr(blank)))
      loads.push_back({std::string(line.substr(0, blank)), *busy});
  }
  return loads;
}

// The value that a pass's frames yield is the one that was filed with them.
bool isValueOf(const core::Pass& pass, const core::Metric& metric) {
  constexpr double kEqual = 1e-9;
  if (!pass.value || !pass.frames) return true;
  const double of_frames = core::headlineOf(*pass.frames, metric);
  return std::abs(*pass.value - of_frames) <= kEqual * of_frames;
}

// What is left of a pass that is damaged: that it was, and where.
core::Pass damagedPass(const core::Pass& read, const std::string& what) {
  core::Pass pass;
  pass.id = read.id;
  pass.slot = read.slot;
  pass.attempt = read.attempt;
  pass.visit_id = read.visit_id;
  pass.status = core::PassStatus::Failed;
  pass.failure = what + "; it is left out";
  pass.is_damaged = true;
  return pass;
}

}  // namespace

Error damagedRow(const std::string& path, const std::string& what) {
  return {ErrorKind::DamagedFile, "the study file is damaged: " + what, path,
          "Restore it from a copy; this one was left as it is"};
}

core::Result<Recorded> StudyRows::readAll(Database& database) {
  for (const char* table : {"attachment", "picture", "visit_picture"}) {
    const auto pictures = damagedRows(database, table);
    if (!pictures) return pictures.error();
    if (!pictures->empty()) return damaged("a picture is not what was written");
  }
  if (auto done = readTable(database, "visit", &StudyRows::takeVisit); !done) return done.error();
  if (auto done = readTable(database, "pass", &StudyRows::takePass); !done) return done.error();
  if (auto done = readTable(database, "result", &StudyRows::takeResult); !done) return done.error();
  if (auto done = readTable(database, "possible", &StudyRows::takePossible); !done) return done.error();
  leaveOutPassesWithoutResults();
  if (auto done = readTable(database, "event", &StudyRows::takeEvent); !done) return done.error();
  if (auto done = readTable(database, "capture", &StudyRows::takeCapture); !done) return done.error();
  if (auto done = readTable(database, "measurement", &StudyRows::takeMeasurement); !done) return done.error();
  return std::move(recorded_);
}

// Rows are never taken back: their numbers have no gap. Of passes the damaged ones are left out, of other rows none may
// be.
Status StudyRows::readTable(Database& database, const std::string& table, Take take) {
  std::int64_t last = 0;
  return forEachRow(database,
                    fmt::format("SELECT sum IS row_sum({0}), {0} FROM {1} ORDER BY id", summedColumns(table), table),
                    [&](const Statement& row) -> Status {
                      if (row.integer(1) != ++last) return damaged(fmt::format("'{}' has lost a row", table));
                      if (row.integer(0) != 1 && table != "pass" && table != "result" && table != "possible")
                        return damaged(fmt::format("row {} of '{}' is not what was written", last, table));
                      return (this->*take)(row);
                    });
}

void StudyRows::grantRoom() {
  constexpr std::int64_t kMiB = 1 << 20;
  std::error_code code;
  const std::uintmax_t on_disk = std::filesystem::file_size(path_, code);
  const std::int64_t bytes = code ? 0 : static_cast<std::int64_t>(std::min<std::uintmax_t>(on_disk, 1LL << 40));
  texts_left_ = 16 * kMiB + 16 * bytes;
  frames_left_ = 1024 * kMiB + 64 * bytes;
}

Status StudyRows::takeRoom(std::int64_t& left, std::string_view packed) const {
  const auto size = unpackedSize(packed);
  if (!size) return core::Done{};  // whoever unpacks it says what is wrong
  left -= static_cast<std::int64_t>(std::min<std::uint64_t>(*size, std::uint64_t{1} << 40));
  if (left >= 0) return core::Done{};
  return damaged("it unpacks to far more than its size allows");
}

bool StudyRows::hasVisit(std::int64_t id) const {
  return id >= 1 && id <= static_cast<std::int64_t>(recorded_.visits.size());
}

Status StudyRows::takeVisit(const Statement& row) {
  const std::int64_t id = row.integer(1);
  const std::int64_t planned = row.integer(2);
  const std::int64_t round = row.integer(3);
  const std::int64_t configuration = row.integer(4);
  const auto first = planned_visits_.find(planned);
  if (first == planned_visits_.end() || round != first->second.round ||
      configuration != static_cast<std::int64_t>(core::placeOf(first->second.configuration)))
    return damaged(fmt::format("visit {} is none of the plan's", id));
  if (!core::isMoment(row.integer(6))) return damaged(fmt::format("visit {} has no start time", id));
  recorded_.visits.push_back({id, static_cast<int>(planned), static_cast<int>(round),
                              static_cast<core::ConfigurationId>(configuration), row.text(5), row.integer(6)});
  return core::Done{};
}

Status StudyRows::takePass(const Statement& row) {
  core::Pass pass;
  pass.id = row.integer(1);
  const std::int64_t slot = row.integer(3);
  const bool is_planned = slot >= 0 && slot < static_cast<std::int64_t>(schedule_.size());
  pass.slot = is_planned ? static_cast<std::size_t>(slot) : schedule_.size();
  pass.visit_id = row.integer(2);
  pass.attempt = static_cast<int>(std::clamp<std::int64_t>(row.integer(4), 1, kMostAttempts));
  const bool is_as_written = row.integer(0) == 1;
  const Status read = is_as_written ? readPass(row, pass) : Status(damaged("the pass is not what was written"));
  if (!read && !is_planned) return damaged("a pass is not what was written, and its place is lost");
  if (!read) pass = damagedPass(pass, read.error().what);
  recorded_.passes.push_back(std::move(pass));
  return core::Done{};
}

core::Result<core::Pass*> StudyRows::passOf(std::int64_t id, const char* what) {
  if (id >= 1 && id <= static_cast<std::int64_t>(recorded_.passes.size()))
    return &recorded_.passes[static_cast<std::size_t>(id) - 1];
  return damaged(fmt::format("{} is of no pass", what));
}

// One that does not hold takes its pass with it: the others of it stay unknown too.
Status StudyRows::takeResult(const Statement& row) {
  const auto of = passOf(row.integer(2), "a result");
  if (!of) return of.error();
  core::Pass& pass = **of;
  if (pass.is_damaged) return core::Done{};
  const std::int64_t place = row.integer(3);
  const std::size_t wanted = study_.cases[schedule_[pass.slot].case_index].further.size();
  const std::optional<double> value = row.isNull(4) ? std::nullopt : std::optional(row.real(4));
  const bool is_next = place == static_cast<std::int64_t>(pass.further.size()) + 1 && pass.further.size() < wanted;
  if (row.integer(0) != 1 || !is_next || (value && !std::isfinite(*value)))
    pass = damagedPass(pass, damaged("a result of the pass is not what was written").what);
  else
    pass.further.push_back({value, row.text(5)});
  return core::Done{};
}

Status StudyRows::takePossible(const Statement& row) {
  const auto of = passOf(row.integer(2), "what was possible");
  if (!of) return of.error();
  core::Pass& pass = **of;
  if (pass.is_damaged) return core::Done{};
  if (row.integer(0) != 1)
    pass = damagedPass(pass, damaged("what the pass said to be possible is not what was written").what);
  else if (const std::string condition = row.text(3); condition.empty())
    pass.does_not_run = row.text(4);
  else
    pass.conditions.push_back(condition);
  return core::Done{};
}

// A finished pass has all results of its case, or the reasons.
void StudyRows::leaveOutPassesWithoutResults() {
  for (core::Pass& pass : recorded_.passes) {
    if (pass.is_damaged || pass.status == core::PassStatus::Failed || !pass.does_not_run.empty()) continue;
    if (pass.further.size() != study_.cases[schedule_[pass.slot].case_index].further.size())
      pass = damagedPass(pass, damaged("a result of the pass is lost").what);
  }
}

Status StudyRows::readPass(const Statement& row, core::Pass& pass) const {
  const std::int64_t status = row.integer(5);
  if (pass.slot >= schedule_.size()) return damaged("the plan has no such pass");
  if (!hasVisit(pass.visit_id)) return damaged("there is no such visit");
  if (recorded_.visits[static_cast<std::size_t>(pass.visit_id) - 1].planned != schedule_[pass.slot].visit)
    return damaged("the plan has it in another visit");
  if (row.integer(4) != pass.attempt || status < 0 || status > 1) return damaged("it is not a pass");
  pass.status = static_cast<core::PassStatus>(status);
  pass.failure = row.text(6);
  if (!core::isMoment(row.integer(7))) return damaged("it has no start time");
  pass.started_ms = row.integer(7);
  pass.duration_s = row.real(8);
  if (!row.isNull(9)) pass.value = row.real(9);
  if (!std::isfinite(pass.duration_s) || (pass.value && !std::isfinite(*pass.value)))
    return damaged("its value is not a number");
  pass.loads = loadsFrom(row.text(13));
  if (auto read = readFrames(row, pass); !read) return read;
  if (!row.isNull(14)) pass.others_busy_percent = row.real(14);
  if (auto room = takeRoom(texts_left_, row.blob(15)); !room) return room;
  if (auto room = takeRoom(texts_left_, row.blob(16)); !room) return room;
  if (!row.isNull(15)) {
    auto text = unpackText(row.blob(15));
    if (!text) return text.error();
    pass.settings = *std::move(text);
  }
  if (!row.isNull(16)) {
    const auto samples = unpackSamples(row.blob(16));
    if (!samples) return samples.error();
    pass.samples = core::summarize(*samples);
    pass.throttled = core::throttlings(*samples);
    pass.unread = samples->unread;
  }
  pass.presentation = presentationFromJson(row.text(17));
  pass.typed = typedFromJson(row.text(18));
  pass.origin = row.text(19);
  return core::Done{};
}

Status StudyRows::readFrames(const Statement& row, core::Pass& pass) const {
  if (row.isNull(10)) return core::Done{};
  const core::Case& a_case = study_.cases[schedule_[pass.slot].case_index];
  if (auto room = takeRoom(frames_left_, row.blob(10)); !room) return room;
  const auto count = row.isNull(20) ? std::nullopt : std::optional(row.integer(20));
  const auto frame_ms = unpackFrames(row.blob(10), count);
  if (!frame_ms) return frame_ms.error();
  auto summary = core::summarizeFrames(*frame_ms, a_case, study_.targets());
  if (!summary) return damaged("it has no frames: " + summary.error().what);
  pass.frames = *std::move(summary);
  return isValueOf(pass, a_case.metric) ? Status(core::Done{}) : Status(damaged("its value is not that of its frames"));
}

const char* StudyRows::missingOf(const core::Act& act) const {
  return std::visit(
      [this](const auto& one) -> const char* {
        if constexpr (requires { one.configuration; })
          if (core::placeOf(one.configuration) >= study_.configurationCount())
            return "a level that the study does not have";
        if constexpr (requires { one.pass_id; })
          if (one.pass_id < 1 || one.pass_id > static_cast<std::int64_t>(recorded_.passes.size()))
            return "a pass that is not there";
        if constexpr (requires { one.slot; })
          if (one.slot >= schedule_.size()) return "a pass that the plan does not have";
        return nullptr;
      },
      act);
}

Status StudyRows::takeEvent(const Statement& row) {
  const std::int64_t id = row.integer(1);
  if (!core::isMoment(row.integer(2))) return damaged(fmt::format("event {} has no time", id));
  auto act = actOf({row.text(4), row.text(5), row.text(6)});
  if (!act) return damaged(fmt::format("event {} does not say what its kind says", id));
  if (const char* missing = missingOf(*act)) return damaged(fmt::format("event {} is about {}", id, missing));
  enter({id, row.integer(2), row.text(3), *std::move(act)}, recorded_);
  return core::Done{};
}

core::Result<core::CaptureMoment> StudyRows::momentOf(std::int64_t moment, const char* table) const {
  if (moment >= 0 && moment <= static_cast<int>(core::CaptureMoment::End))
    return static_cast<core::CaptureMoment>(moment);
  return damaged(fmt::format("a row of '{}' names a moment of its visit that does not exist", table));
}

Status StudyRows::takeCapture(const Statement& row) {
  const auto moment = momentOf(row.integer(3), "capture");
  if (!moment) return moment.error();
  if (!hasVisit(row.integer(2))) return damaged("a capture is of no visit");
  if (auto room = takeRoom(texts_left_, row.blob(4)); !room) return room;
  const auto text = unpackText(row.blob(4));
  if (!text) return text.error();
  auto capture = captureFromJson(*text, path_);
  if (!capture) return capture.error();
  recorded_.captures.push_back({row.integer(2), *moment, *std::move(capture)});
  return core::Done{};
}

Status StudyRows::takeMeasurement(const Statement& row) {
  const auto moment = momentOf(row.integer(3), "measurement");
  if (!moment) return moment.error();
  if (!hasVisit(row.integer(2))) return damaged("a measurement is of no visit");
  auto measurement = measurementFromJson(row.text(4), path_);
  if (!measurement) return measurement.error();
  measurement->visit_id = row.integer(2);
  measurement->moment = *moment;
  recorded_.measurements.push_back(*std::move(measurement));
  return core::Done{};
}

}  // namespace store
