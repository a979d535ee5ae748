#include "store/study_file.h"

#include <fcntl.h>
#include <unistd.h>

#include <cstdio>
#include <filesystem>
#include <map>
#include <sstream>

#include <fmt/format.h>

#include "core/number_text.h"
#include "core/schedule.h"
#include "core/secondary.h"
#include "core/stated_fact.h"
#include "store/capture_json.h"
#include "store/event_kinds.h"
#include "store/frame_codec.h"
#include "store/measurement_json.h"
#include "store/null_record_json.h"
#include "store/pass_json.h"
#include "store/samples_json.h"
#include "store/schema.h"
#include "store/study_json.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using core::Status;

core::Visit visitFrom(const Statement& row) {
  return {row.integer(0),
          static_cast<int>(row.integer(1)),
          static_cast<int>(row.integer(2)),
          static_cast<core::Side>(row.integer(3)),
          row.text(4),
          row.integer(5)};
}

// A line for each device: its address and how busy it was, in percent.
std::string loadsText(const std::vector<core::DeviceLoad>& loads) {
  std::string text;
  for (const core::DeviceLoad& load : loads) text += fmt::format("{} {:g}\n", load.device, load.busy_percent);
  return text;
}

std::vector<core::DeviceLoad> loadsFrom(const std::string& text) {
  std::vector<core::DeviceLoad> loads;
  std::istringstream lines(text);
  for (core::DeviceLoad load; lines >> load.device >> load.busy_percent;) loads.push_back(load);
  return loads;
}

// On the disk before it takes the earlier copy's name: a pulled stick holds the old one or the new one.
Status putInPlace(const std::string& fresh, const std::string& path) {
  const auto synced = [](const std::string& what, int flags) {
    const int file = ::open(what.c_str(), flags | O_CLOEXEC);
    const bool is_synced = file >= 0 && ::fsync(file) == 0;
    if (file >= 0) ::close(file);
    return is_synced;
  };
  const std::string folder = std::filesystem::path(path).parent_path().string();
  if (synced(fresh, O_RDONLY) && ::rename(fresh.c_str(), path.c_str()) == 0 &&
      synced(folder.empty() ? "." : folder, O_RDONLY | O_DIRECTORY))
    return core::Done{};
  return Error{ErrorKind::Io, "the copy could not be put in its place", path,
               "Check the folder and its free space; the study itself is safe"};
}

core::Result<core::Samples> samplesFromPacked(std::string_view packed) {
  const auto text = unpackText(packed);
  if (!text) return text.error();
  return samplesFromJson(*text);
}

core::Pass passFrom(const Statement& row) {
  core::Pass pass;
  pass.id = row.integer(0);
  pass.visit_id = row.integer(1);
  pass.slot = static_cast<std::size_t>(row.integer(2));
  pass.attempt = static_cast<int>(row.integer(3));
  pass.status = static_cast<core::PassStatus>(row.integer(4));
  pass.failure = row.text(5);
  pass.started_ms = row.integer(6);
  pass.duration_s = row.real(7);
  if (!row.isNull(8)) pass.value = row.real(8);
  pass.loads = loadsFrom(row.text(10));
  return pass;
}

}  // namespace

core::Result<StudyFile> StudyFile::create(const std::string& path, const core::Study& study) {
  std::error_code code;
  if (std::filesystem::exists(path, code))
    return Error{ErrorKind::NotAllowed, "a file of this name exists", path,
                 "Choose another name; it was left as it is"};
  auto database = Database::open(path, Database::Mode::CreateNew);
  if (!database) return database.error();
  StudyFile file(*std::move(database));
  const auto build = [&]() -> Status {
    if (auto marked = file.database_.execute("PRAGMA application_id = " + std::to_string(kApplicationId)); !marked)
      return marked;
    if (auto migrated = migrate(file.database_); !migrated) return migrated;
    return file.replaceStudy(study);
  };
  if (const Status built = build(); !built) {
    (void)std::remove(path.c_str());  // half a study file would only puzzle
    return built.error();
  }
  return file;
}

core::Result<StudyFile> StudyFile::open(const std::string& path) {
  if (auto checked = checkHeader(path); !checked) return checked.error();
  auto database = Database::open(path, Database::Mode::OpenExisting);
  if (!database) return database.error();
  StudyFile file(*std::move(database));
  if (auto loaded = file.load(); !loaded) return loaded.error();
  return file;
}

Error StudyFile::damagedFile() const {
  return {ErrorKind::DamagedFile, "the study file is damaged or cut short", path(),
          "Restore it from a copy; this one was left as it is"};
}

Status StudyFile::load() {
  const Error damaged = damagedFile();
  std::string verdict;
  if (auto checked = forEachRow(database_, "PRAGMA quick_check(1)",
                                [&](const Statement& row) -> Status {
                                  verdict = row.text(0);
                                  return core::Done{};
                                });
      !checked)
    return checked;
  if (verdict != "ok") return damaged;
  // SQLite reads a last page that is cut short as if zeros stood there. After the check above a hot journal has been
  // rolled back, so the file is as long as its pages say or something was cut off.
  std::uintmax_t bytes = 0;
  if (auto counted = forEachRow(database_, "SELECT page_count * page_size FROM pragma_page_count, pragma_page_size",
                                [&](const Statement& row) -> Status {
                                  bytes = static_cast<std::uintmax_t>(row.integer(0));
                                  return core::Done{};
                                });
      !counted)
    return counted;
  std::error_code code;
  if (const auto size = std::filesystem::file_size(path(), code); !code && size < bytes) return damaged;
  if (auto migrated = migrate(database_); !migrated) return migrated;
  return readDesign();
}

Status StudyFile::readDesign() {
  bool is_read = false;
  if (auto rows = forEachRow(database_, "SELECT design FROM study WHERE id = 1",
                             [&](const Statement& row) -> Status {
                               auto study = studyFromJson(row.text(0), path());
                               if (!study) return study.error();
                               study_ = *std::move(study);
                               is_read = true;
                               return core::Done{};
                             });
      !rows)
    return rows;
  return is_read ? Status(core::Done{}) : Status(damagedFile());
}

Status StudyFile::replaceStudy(const core::Study& study) {
  const auto write = [&]() -> Status {
    bool has_passes = false;
    if (auto rows = forEachRow(database_, "SELECT 1 FROM pass LIMIT 1",
                               [&](const Statement&) -> Status {
                                 has_passes = true;
                                 return core::Done{};
                               });
        !rows)
      return rows;
    if (has_passes)
      return Error{ErrorKind::NotAllowed, "the question is locked since the first pass was recorded", path(),
                   "Make a new study from this one to ask another question"};
    return writeDesign(study);
  };
  Status written = database_.inTransaction(write);
  if (written) study_ = study;
  return written;
}

Status StudyFile::writeDesign(const core::Study& study) {
  auto statement =
      database_.prepare("INSERT INTO study (id, design) VALUES (1, ?1) ON CONFLICT (id) DO UPDATE SET design = ?1");
  if (!statement) return statement.error();
  return stepOnce(statement->bind(1, std::string_view(studyToJson(study))));
}

Status StudyFile::changePlan(const core::Study& study, const Event& why) {
  const std::vector<core::Slot> before = core::scheduleOf(study_);
  const std::vector<core::Slot> after = core::scheduleOf(study);
  if (after.size() < before.size() || !std::equal(before.begin(), before.end(), after.begin()))
    return Error{ErrorKind::NotAllowed, "what is planned already cannot be moved", path(),
                 "Add to the end of the plan"};
  Status written = database_.inTransaction([&]() -> Status {
    if (auto designed = writeDesign(study); !designed) return designed;
    return insertEvent(why);
  });
  if (written) study_ = study;
  return written;
}

core::Result<core::Visit> StudyFile::addVisit(core::Visit visit) {
  const Status written = database_.inTransaction([&]() -> Status {
    auto statement =
        database_.prepare("INSERT INTO visit (planned, round, side, boot_id, started_ms) VALUES (?1, ?2, ?3, ?4, ?5)");
    if (!statement) return statement.error();
    statement->bind(1, std::int64_t{visit.planned})
        .bind(2, std::int64_t{visit.round})
        .bind(3, static_cast<std::int64_t>(visit.side));
    return stepOnce(statement->bind(4, std::string_view(visit.boot_id)).bind(5, visit.started_ms));
  });
  if (!written) return written.error();
  visit.id = database_.lastInsertId();
  return visit;
}

core::Result<core::Pass> StudyFile::addPass(core::Pass pass, std::span<const double> frame_ms,
                                            const core::Samples& samples) {
  const Status written = database_.inTransaction([&]() -> Status {
    auto statement = database_.prepare(
        "INSERT INTO pass (visit_id, slot, attempt, status, failure, started_ms, duration_s, value, frames, output, "
        "error_output, loads, others_busy, settings, samples, presentation, typed, origin) "
        "VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, ?15, ?16, ?17, ?18)");
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
    return stepOnce(*statement);
  });
  if (!written) return written.error();
  pass.id = database_.lastInsertId();
  pass.samples = core::summarize(samples);
  pass.throttled = core::throttlings(samples);
  return pass;
}

Status StudyFile::attach(std::int64_t pass_id, const Attachment& attachment) {
  return database_.inTransaction([&]() -> Status {
    auto statement = database_.prepare("INSERT INTO attachment (pass_id, name, bytes) VALUES (?1, ?2, ?3)");
    if (!statement) return statement.error();
    statement->bind(1, pass_id).bind(2, std::string_view(attachment.name)).bind(3, Blob{attachment.bytes});
    return stepOnce(*statement);
  });
}

core::Result<std::vector<StudyFile::Attachment>> StudyFile::attachments(std::int64_t pass_id) {
  auto statement = database_.prepare("SELECT name, bytes FROM attachment WHERE pass_id = ?1 ORDER BY id");
  if (!statement) return statement.error();
  statement->bind(1, pass_id);
  std::vector<Attachment> all;
  for (auto row = statement->step();; row = statement->step()) {
    if (!row) return row.error();
    if (!*row) return all;
    all.push_back({statement->text(0), std::string(statement->blob(1))});
  }
}

Status StudyFile::addEvent(const Event& event) {
  return database_.inTransaction([&] { return insertEvent(event); });
}

Status StudyFile::insertEvent(const Event& event) {
  auto statement =
      database_.prepare("INSERT INTO event (at_ms, person, kind, subject, text) VALUES (?1, ?2, ?3, ?4, ?5)");
  if (!statement) return statement.error();
  statement->bind(1, event.at_ms).bind(2, std::string_view(event.person)).bind(3, std::string_view(event.kind));
  return stepOnce(statement->bind(4, std::string_view(event.subject)).bind(5, std::string_view(event.text)));
}

Status StudyFile::addCapture(const core::VisitCapture& capture) {
  return database_.inTransaction([&]() -> Status {
    auto statement = database_.prepare("INSERT INTO capture (visit_id, moment, facts) VALUES (?1, ?2, ?3)");
    if (!statement) return statement.error();
    statement->bind(1, capture.visit_id).bind(2, static_cast<std::int64_t>(capture.moment));
    return stepOnce(statement->bind(3, Blob{packText(captureToJson(capture.capture))}));
  });
}

Status StudyFile::addMeasurement(const core::VisitMeasurement& measurement) {
  return database_.inTransaction([&]() -> Status {
    auto statement = database_.prepare("INSERT INTO measurement (visit_id, moment, readings) VALUES (?1, ?2, ?3)");
    if (!statement) return statement.error();
    statement->bind(1, measurement.visit_id).bind(2, static_cast<std::int64_t>(measurement.moment));
    return stepOnce(statement->bind(3, std::string_view(measurementToJson(measurement))));
  });
}

Status StudyFile::copyTo(const std::string& path) {
  std::error_code code;
  if (std::filesystem::exists(path, code))
    if (auto checked = checkHeader(path); !checked) return checked;
  const std::string fresh = path + ".new";
  std::filesystem::remove(fresh, code);
  auto statement = database_.prepare("VACUUM INTO ?1");
  if (!statement) return statement.error();
  if (auto copied = stepOnce(statement->bind(1, std::string_view(fresh))); !copied) {
    std::filesystem::remove(fresh, code);
    return Error{copied.error().kind, "the copy could not be made: " + copied.error().what, path,
                 "Check the folder and its free space; the study itself is safe"};
  }
  return putInPlace(fresh, path);
}

core::Result<Recorded> StudyFile::recorded() {
  // Another program may have added to the plan: passes are read by the plan that they were made by.
  if (auto read = readDesign(); !read) return read.error();
  Recorded recorded;
  const std::vector<core::Slot> schedule = core::scheduleOf(study_);
  const auto take_visit = [&](const Statement& row) -> Status {
    recorded.visits.push_back(visitFrom(row));
    return core::Done{};
  };
  const auto take_pass = [&](const Statement& row) -> Status {
    core::Pass pass = passFrom(row);
    if (!row.isNull(9) && pass.slot < schedule.size()) {
      const auto frame_ms = unpackFrames(row.blob(9));
      if (!frame_ms) return frame_ms.error();
      if (auto summary =
              core::summarizeFrames(*frame_ms, study_.cases[schedule[pass.slot].case_index], study_.target_fps))
        pass.frames = *summary;
    }
    if (!row.isNull(11)) pass.others_busy_percent = row.real(11);
    if (!row.isNull(12)) {
      auto text = unpackText(row.blob(12));
      if (!text) return text.error();
      pass.settings = *std::move(text);
    }
    if (!row.isNull(13)) {
      const auto samples = samplesFromPacked(row.blob(13));
      if (!samples) return samples.error();
      pass.samples = core::summarize(*samples);
      pass.throttled = core::throttlings(*samples);
    }
    pass.presentation = presentationFromJson(row.text(14));
    pass.typed = typedFromJson(row.text(15));
    pass.origin = row.text(16);
    recorded.passes.push_back(std::move(pass));
    return core::Done{};
  };
  const auto take_event = [&](const Statement& row) -> Status {
    recorded.events.push_back({row.integer(0), row.integer(1), row.text(2), row.text(3), row.text(4), row.text(5)});
    return core::Done{};
  };
  if (auto rows = forEachRow(database_, "SELECT id, planned, round, side, boot_id, started_ms FROM visit ORDER BY id",
                             take_visit);
      !rows)
    return rows.error();
  if (auto rows = forEachRow(
          database_,
          "SELECT id, visit_id, slot, attempt, status, failure, started_ms, duration_s, value, frames, loads, "
          "others_busy, settings, samples, presentation, typed, origin FROM pass ORDER BY id",
          take_pass);
      !rows)
    return rows.error();
  if (auto rows =
          forEachRow(database_, "SELECT id, at_ms, person, kind, subject, text FROM event ORDER BY id", take_event);
      !rows)
    return rows.error();
  for (const Event& event : recorded.events) {
    if (event.kind != events::kExcluded && event.kind != events::kIncluded) continue;
    for (core::Pass& pass : recorded.passes)
      if (std::to_string(pass.id) == event.subject)
        pass.excluded_because = event.kind == events::kExcluded ? event.text : std::string();
  }
  const auto take_capture = [&](const Statement& row) -> Status {
    const auto text = unpackText(row.blob(2));
    if (!text) return text.error();
    auto capture = captureFromJson(*text, path());
    if (!capture) return capture.error();
    recorded.captures.push_back(
        {row.integer(0), static_cast<core::CaptureMoment>(row.integer(1)), *std::move(capture)});
    return core::Done{};
  };
  if (auto rows = forEachRow(database_, "SELECT visit_id, moment, facts FROM capture ORDER BY id", take_capture); !rows)
    return rows.error();
  const auto take_measurement = [&](const Statement& row) -> Status {
    auto measurement = measurementFromJson(row.text(2), path());
    if (!measurement) return measurement.error();
    measurement->visit_id = row.integer(0);
    measurement->moment = static_cast<core::CaptureMoment>(row.integer(1));
    recorded.measurements.push_back(*std::move(measurement));
    return core::Done{};
  };
  if (auto rows =
          forEachRow(database_, "SELECT visit_id, moment, readings FROM measurement ORDER BY id", take_measurement);
      !rows)
    return rows.error();
  return recorded;
}

core::Result<std::vector<double>> StudyFile::frames(std::int64_t pass_id) {
  std::vector<double> frame_ms;
  auto statement = database_.prepare("SELECT frames FROM pass WHERE id = ?1 AND frames IS NOT NULL");
  if (!statement) return statement.error();
  const auto row = statement->bind(1, pass_id).step();
  if (!row) return row.error();
  if (!*row) return frame_ms;
  return unpackFrames(statement->blob(0));
}

core::Result<core::Samples> StudyFile::samples(std::int64_t pass_id) {
  auto statement = database_.prepare("SELECT samples FROM pass WHERE id = ?1 AND samples IS NOT NULL");
  if (!statement) return statement.error();
  const auto row = statement->bind(1, pass_id).step();
  if (!row) return row.error();
  if (!*row) return core::Samples{};
  return samplesFromPacked(statement->blob(0));
}

core::Result<StudyFile::Output> StudyFile::output(std::int64_t pass_id) {
  auto statement = database_.prepare("SELECT output, error_output FROM pass WHERE id = ?1");
  if (!statement) return statement.error();
  const auto row = statement->bind(1, pass_id).step();
  if (!row) return row.error();
  if (!*row) return Error{ErrorKind::Missing, "there is no such pass", path(), "Open the study again"};
  auto output = unpackText(statement->blob(0));
  if (!output) return output.error();
  auto error_output = unpackText(statement->blob(1));
  if (!error_output) return error_output.error();
  return Output{*std::move(output), *std::move(error_output)};
}

namespace {

void takePrediction(std::vector<core::Prediction>& predictions, const Event& event) {
  std::erase_if(predictions, [&](const core::Prediction& one) { return one.person == event.person; });
  if (const auto percent = core::numberOf(event.text)) predictions.push_back({event.person, *percent});
}

void takeExplanation(std::vector<core::Explanation>& explanations, const Event& event) {
  std::erase_if(explanations, [&](const core::Explanation& one) {
    return one.case_title == event.subject && one.person == event.person;
  });
  if (auto said = core::Explanation::fromFiled(event.subject, event.text, event.person))
    explanations.push_back(*std::move(said));
}

}  // namespace

// What was said of the bench when its last capture had been taken, so that no capture holds it.
static std::vector<core::Fact> statedAfterwards(const Recorded& recorded) {
  std::int64_t last_ms = 0;
  for (const core::VisitCapture& one : recorded.captures) last_ms = std::max(last_ms, one.capture.taken_ms);
  std::map<std::string, core::Fact> said;
  for (const Event& event : recorded.events) {
    if (event.kind != events::kStated || event.at_ms <= last_ms) continue;
    said.erase(event.subject);
    if (!event.text.empty())
      if (auto fact = core::statedFact(event.subject, event.text, event.person)) said[event.subject] = *std::move(fact);
  }
  std::vector<core::Fact> facts;
  for (auto& [id, fact] : said) facts.push_back(std::move(fact));
  return facts;
}

core::Record recordOf(const Recorded& recorded) {
  core::Record record;
  record.visits = recorded.visits;
  record.passes = recorded.passes;
  record.captures = recorded.captures;
  record.measurements = recorded.measurements;
  for (const Event& event : recorded.events) {
    if (event.kind == events::kAccepted) record.acceptances.emplace_back(event.subject, event.text);
    if (event.kind == events::kOpenedEarly && record.opened_early.empty()) record.opened_early = event.text;
    if (event.kind == events::kNotReachable) record.unreachable.push_back({events::sideOf(event.subject), event.text});
    if (event.kind == events::kStable) record.is_stable[static_cast<std::size_t>(events::sideOf(event.subject))] = true;
    if (event.kind == events::kPredicted) takePrediction(record.predictions, event);
    if (event.kind == events::kFelt)
      record.felt.push_back({std::atoll(event.subject.c_str()), event.person, event.text});
    if (event.kind == events::kExplained) takeExplanation(record.explanations, event);
    if (event.kind == events::kPinned) {
      record.pins.erase(event.subject);
      if (!event.text.empty()) record.pins[event.subject] = event.text;
    }
    if (event.kind == events::kNullStudy) record.null_study = nullRecordFromJson(event.text);
    if (event.kind == events::kStoppedAtLook) record.is_stopped_at_look = true;
    const bool is_proved_since = !recorded.visits.empty() && recorded.visits.back().started_ms > event.at_ms;
    if (event.kind == events::kRestored && !is_proved_since) record.put_back = event.text;
    if (event.kind == events::kSkip)
      record.skipped.push_back({std::strtoull(event.subject.c_str(), nullptr, 10), event.text});
    if (event.kind == events::kRepeat) record.repeats.push_back(std::strtoull(event.subject.c_str(), nullptr, 10));
    if (event.kind == events::kFlip) record.flips.push_back({std::atoi(event.subject.c_str()), event.at_ms});
    if (event.kind == events::kUpdating) record.updates.push_back(event.text);
    if (event.kind == events::kPlanChanged) record.plan_changes.push_back(event.text);
    if (event.kind == events::kJudgingChanged)
      record.judging_changes.push_back({event.text, event.subject == events::kSeen});
  }
  record.stated_afterwards = statedAfterwards(recorded);
  return record;
}

std::vector<core::Fact> statedFactsOf(const Recorded& recorded) {
  std::map<std::string, const Event*> latest;
  for (const Event& event : recorded.events)
    if (event.kind == events::kStated) latest[event.subject] = &event;
  std::vector<core::Fact> facts;
  for (const auto& [id, event] : latest)
    if (!event->text.empty())
      if (auto fact = core::statedFact(id, event->text, event->person)) facts.push_back(*std::move(fact));
  return facts;
}

}  // namespace store
