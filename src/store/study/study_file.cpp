#include "store/study/study_file.h"

#include <fcntl.h>
#include <unistd.h>

#include <cstdio>
#include <filesystem>

#include <fmt/format.h>

#include "core/study/reach.h"
#include "core/study/schedule.h"
#include "store/json/capture_json.h"
#include "store/json/measurement_json.h"
#include "store/json/study_json.h"
#include "store/study/act_row.h"
#include "store/study/frame_codec.h"
#include "store/study/row_sum.h"
#include "store/study/schema.h"
#include "store/study/study_rows.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using core::Status;

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

}  // namespace

core::Result<StudyFile> StudyFile::create(const std::string& path, const core::Study& study) {
  std::error_code code;
  const std::string name = std::filesystem::path(path).filename().string();
  if (name.empty() || name == ":memory:" || name == "." || name == "..")
    return Error{ErrorKind::OutOfRange, "this is not a name for a study file", path,
                 "Name a file, for example memory-speed.ironlever"};
  if (std::filesystem::exists(path, code))
    return Error{ErrorKind::NotAllowed, "a file of this name exists", path,
                 "Choose another name; it was left as it is"};
  auto database = Database::open(path, Database::Mode::CreateNew);
  if (!database) return database.error();
  StudyFile file(*std::move(database));
  const auto build = [&]() -> Status {
    if (auto added = addRowSum(file.database_); !added) return added;
    if (auto marked = file.database_.execute("PRAGMA application_id = " + std::to_string(kApplicationId)); !marked)
      return marked;
    if (auto migrated = migrate(file.database_); !migrated) return migrated;
    if (auto written = file.replaceStudy(study); !written) return written;
    return forEachRow(file.database_, "SELECT identity FROM study", [&](const Statement& row) -> Status {
      file.identity_ = row.text(0);
      return core::Done{};
    });
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
  if (auto added = addRowSum(database_); !added) return added;
  if (auto checked = checkTables(database_); !checked) return checked;
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
  const auto last = lastVisit();
  if (!last) return last.error();
  last_visit_ = *last;
  return readDesign();
}

Status StudyFile::readDesign() {
  bool is_read = false;
  if (auto rows = forEachRow(
          database_, fmt::format("SELECT design, sum IS row_sum({}), identity FROM study", summedColumns("study")),
          [&](const Statement& row) -> Status {
            if (row.integer(1) != 1) return damagedRow(path(), "its design is not what was written");
            auto study = studyFromJson(row.text(0), path());
            if (!study) return study.error();
            if (const auto problems = core::numbersOutOfRange(*study); !problems.empty())
              return damagedRow(path(), problems.front().what);
            study_ = *std::move(study);
            if (is_seen_from_bench_ && !study_.ssh_name.empty()) core::setReach(study_, {});
            identity_ = row.text(2);
            is_read = true;
            return core::Done{};
          });
      !rows)
    return rows;
  return is_read ? Status(core::Done{}) : Status(damagedFile());
}

void seeFromBench(StudyFile& file) {
  file.is_seen_from_bench_ = true;
  if (!file.study_.ssh_name.empty()) core::setReach(file.study_, {});
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
    if (auto designed = writeDesign(study); !designed) return designed;
    if (const auto fitting = StudyRows(study, path()).readAll(database_); !fitting)
      return Error{ErrorKind::NotAllowed,
                   "a pass that was skipped, or a visit that was begun, has no place in this question", path(),
                   "Make a new study from this one to ask it"};
    return core::Done{};
  };
  Status written = database_.inTransaction(write);
  if (written) study_ = study;
  return written;
}

Status StudyFile::writeDesign(const core::Study& study) {
  auto statement = database_.prepare(
      "INSERT INTO study (id, design, identity) VALUES (1, ?1, lower(hex(randomblob(16)))) "
      "ON CONFLICT (id) DO UPDATE SET design = ?1");
  if (!statement) return statement.error();
  if (auto written = stepOnce(statement->bind(1, std::string_view(studyToJson(study)))); !written) return written;
  return sealRow(database_, "study", 1);
}

// Steps a statement that inserts a row, and sees that the row is there.
Status StudyFile::insertRow(const std::string& table, Statement& statement) {
  if (auto inserted = stepOnce(statement); !inserted) return inserted;
  return sealRow(database_, table, database_.lastInsertId());
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

core::Result<std::optional<StudyFile::VisitBegin>> StudyFile::lastVisit() {
  std::optional<VisitBegin> last;
  const auto read = forEachRow(database_, "SELECT id, started_ms FROM visit ORDER BY id DESC LIMIT 1",
                               [&](const Statement& row) -> Status {
                                 last.emplace(row.integer(0), row.integer(1));
                                 return core::Done{};
                               });
  if (!read) return read.error();
  return last;
}

// A study that is copied over this one while it is open keeps the file's name and place, and is still another.
Status StudyFile::checkLastVisit() {
  const auto found = lastVisit();
  if (!found) return found.error();
  if (*found == last_visit_) return core::Done{};
  return Error{ErrorKind::NotAllowed, "the study was replaced, or another program went on with it, while it was open",
               path(), "Open it again; nothing was filed into it"};
}

core::Result<core::Visit> StudyFile::addVisit(core::Visit visit) {
  const Status written = database_.inTransaction([&]() -> Status {
    if (auto known = checkLastVisit(); !known) return known;
    auto statement = database_.prepare(
        "INSERT INTO visit (planned, round, configuration, boot_id, started_ms) VALUES (?1, ?2, ?3, ?4, ?5)");
    if (!statement) return statement.error();
    statement->bind(1, std::int64_t{visit.planned})
        .bind(2, std::int64_t{visit.round})
        .bind(3, static_cast<std::int64_t>(visit.configuration));
    return insertRow("visit", statement->bind(4, std::string_view(visit.boot_id)).bind(5, visit.started_ms));
  });
  if (!written) return written.error();
  visit.id = database_.lastInsertId();
  last_visit_ = {visit.id, visit.started_ms};
  return visit;
}

Status StudyFile::inOneAct(const std::function<Status()>& work) {
  const auto before = last_visit_;
  const Status done = database_.inTransaction(work);
  if (!done) last_visit_ = before;
  return done;
}

Status StudyFile::insertEvent(const Event& event) {
  auto statement =
      database_.prepare("INSERT INTO event (at_ms, person, kind, subject, text) VALUES (?1, ?2, ?3, ?4, ?5)");
  if (!statement) return statement.error();
  const ActRow act = rowOf(event.act);
  statement->bind(1, event.at_ms).bind(2, std::string_view(event.person)).bind(3, std::string_view(act.kind));
  return insertRow("event", statement->bind(4, std::string_view(act.subject)).bind(5, std::string_view(act.text)));
}

Status StudyFile::addCapture(const core::VisitCapture& capture) {
  return database_.inTransaction([&]() -> Status {
    auto statement = database_.prepare("INSERT INTO capture (visit_id, moment, facts) VALUES (?1, ?2, ?3)");
    if (!statement) return statement.error();
    statement->bind(1, capture.visit_id).bind(2, static_cast<std::int64_t>(capture.moment));
    return insertRow("capture", statement->bind(3, Blob{packText(captureToJson(capture.capture))}));
  });
}

Status StudyFile::addMeasurement(const core::VisitMeasurement& measurement) {
  return database_.inTransaction([&]() -> Status {
    auto statement = database_.prepare("INSERT INTO measurement (visit_id, moment, readings) VALUES (?1, ?2, ?3)");
    if (!statement) return statement.error();
    statement->bind(1, measurement.visit_id).bind(2, static_cast<std::int64_t>(measurement.moment));
    return insertRow("measurement", statement->bind(3, std::string_view(measurementToJson(measurement))));
  });
}

// When the first visit began; nothing before that.
static core::Result<std::optional<std::int64_t>> firstVisitOf(const std::string& path) {
  auto database = Database::open(path, Database::Mode::OpenExisting);
  if (!database) return database.error();
  auto statement = database->prepare("SELECT started_ms FROM visit WHERE id = 1");
  if (!statement) return statement.error();
  const auto row = statement->step();
  if (!row) return row.error();
  return *row ? std::optional(statement->integer(0)) : std::optional<std::int64_t>();
}

// A copy that holds something is replaced only by the study that it is of: the first visit began at the same moment.
static Status checkIsCopy(const std::string& ours, const std::string& path) {
  if (auto checked = checkHeader(path); !checked) return checked;
  const auto of_copy = firstVisitOf(path);
  if (!of_copy) return of_copy.error();
  const auto own = firstVisitOf(ours);
  if (!own) return own.error();
  if (!*of_copy || *of_copy == *own) return core::Done{};
  return Error{ErrorKind::NotAllowed, "a copy of another study lies there; it was left as it is", path,
               "Name another folder for this study's copies"};
}

static Error notCopied(ErrorKind kind, const std::string& why, const std::string& path) {
  return {kind, "the copy could not be made: " + why, path,
          "Check the folder and its free space; the study itself is safe"};
}

// What it makes is synced once, where it is put in its place: a disk that is busy for a minute held up the sheet at
// each pass. Nothing is written to the study itself meanwhile.
Status StudyFile::snapshotTo(const std::string& path) {
  std::error_code code;
  std::filesystem::remove(path, code);
  auto statement = database_.prepare("VACUUM INTO ?1");
  if (!statement) return statement.error();
  if (auto unsynced = database_.execute("PRAGMA synchronous = OFF"); !unsynced) return unsynced;
  const auto copied = stepOnce(statement->bind(1, std::string_view(path)));
  if (auto synced = database_.execute("PRAGMA synchronous = EXTRA"); !synced) return synced;
  if (copied) return core::Done{};
  std::filesystem::remove(path, code);
  return notCopied(copied.error().kind, copied.error().what, path);
}

Status placeCopy(const std::string& snapshot, const std::string& path) {
  std::error_code code;
  if (std::filesystem::exists(path, code))
    if (auto checked = checkIsCopy(snapshot, path); !checked) return checked;
  const std::string fresh = path + ".new";
  std::filesystem::remove(fresh, code);
  if (!std::filesystem::copy_file(snapshot, fresh, code)) {
    const std::string why = code.message();
    std::filesystem::remove(fresh, code);
    return notCopied(ErrorKind::Io, why, path);
  }
  return putInPlace(fresh, path);
}

Status StudyFile::copyTo(const std::string& path) {
  std::error_code code;
  if (std::filesystem::exists(path, code))
    if (auto checked = checkIsCopy(this->path(), path); !checked) return checked;
  const std::string fresh = path + ".new";
  if (auto made = snapshotTo(fresh); !made) return made;
  return putInPlace(fresh, path);
}

core::Result<Recorded> StudyFile::recorded() {
  // Another program may have added to the plan: passes are read by the plan that they were made by.
  if (auto read = readDesign(); !read) return read.error();
  auto recorded = StudyRows(study_, path()).readAll(database_);
  const auto last = lastVisit();
  if (recorded && last) last_visit_ = *last;
  return recorded;
}

}  // namespace store
