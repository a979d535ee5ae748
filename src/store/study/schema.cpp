#include "store/study/schema.h"

#include <algorithm>
#include <array>
#include <iterator>
#include <map>

#include <fmt/format.h>

#include "store/files/regular_file.h"
#include "store/study/row_sum.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;

// Step i leads from schema i to i + 1. A step that has shipped is never edited; a change is a new step.
constexpr const char* kSteps[] = {
    R"sql(
      CREATE TABLE study (
        id INTEGER PRIMARY KEY CHECK (id = 1),
        design TEXT NOT NULL
      );
      CREATE TABLE visit (
        id INTEGER PRIMARY KEY,
        planned INTEGER NOT NULL,
        round INTEGER NOT NULL,
        side INTEGER NOT NULL,
        boot_id TEXT NOT NULL,
        started_ms INTEGER NOT NULL
      );
      CREATE TABLE pass (
        id INTEGER PRIMARY KEY,
        visit_id INTEGER NOT NULL REFERENCES visit (id),
        slot INTEGER NOT NULL,
        attempt INTEGER NOT NULL,
        status INTEGER NOT NULL,
        failure TEXT NOT NULL,
        started_ms INTEGER NOT NULL,
        duration_s REAL NOT NULL,
        value REAL,
        frames BLOB,
        output BLOB NOT NULL,
        error_output BLOB NOT NULL,
        UNIQUE (slot, attempt)
      );
      CREATE TABLE event (
        id INTEGER PRIMARY KEY,
        at_ms INTEGER NOT NULL,
        person TEXT NOT NULL,
        kind TEXT NOT NULL,
        subject TEXT NOT NULL,
        text TEXT NOT NULL
      );
    )sql",
    R"sql(
      CREATE TABLE capture (
        id INTEGER PRIMARY KEY,
        visit_id INTEGER NOT NULL REFERENCES visit (id),
        moment INTEGER NOT NULL,
        facts BLOB NOT NULL,
        UNIQUE (visit_id, moment)
      );
    )sql",
    R"sql(
      ALTER TABLE pass ADD COLUMN loads TEXT NOT NULL DEFAULT '';
      CREATE TABLE measurement (
        id INTEGER PRIMARY KEY,
        visit_id INTEGER NOT NULL REFERENCES visit (id),
        moment INTEGER NOT NULL,
        readings TEXT NOT NULL,
        UNIQUE (visit_id, moment)
      );
    )sql",
    R"sql(
      ALTER TABLE pass ADD COLUMN others_busy REAL;
      ALTER TABLE pass ADD COLUMN settings BLOB;
      ALTER TABLE pass ADD COLUMN samples BLOB;
    )sql",
    R"sql(
      ALTER TABLE pass ADD COLUMN presentation TEXT NOT NULL DEFAULT '';
      ALTER TABLE pass ADD COLUMN typed TEXT NOT NULL DEFAULT '';
      ALTER TABLE pass ADD COLUMN origin TEXT NOT NULL DEFAULT '';
      CREATE TABLE attachment (
        id INTEGER PRIMARY KEY,
        pass_id INTEGER NOT NULL REFERENCES pass (id),
        name TEXT NOT NULL,
        bytes BLOB NOT NULL
      );
    )sql",
    R"sql(
      ALTER TABLE study ADD COLUMN sum INTEGER;
      ALTER TABLE visit ADD COLUMN sum INTEGER;
      ALTER TABLE pass ADD COLUMN frame_count INTEGER;
      ALTER TABLE pass ADD COLUMN sum INTEGER;
      ALTER TABLE event ADD COLUMN sum INTEGER;
      ALTER TABLE capture ADD COLUMN sum INTEGER;
      ALTER TABLE measurement ADD COLUMN sum INTEGER;
      ALTER TABLE attachment ADD COLUMN sum INTEGER;
      UPDATE study SET sum = row_sum(id, design);
      UPDATE visit SET sum = row_sum(id, planned, round, side, boot_id, started_ms);
      UPDATE pass SET sum = row_sum(id, visit_id, slot, attempt, status, failure, started_ms, duration_s, value, frames,
        output, error_output, loads, others_busy, settings, samples, presentation, typed, origin, frame_count);
      UPDATE event SET sum = row_sum(id, at_ms, person, kind, subject, text);
      UPDATE capture SET sum = row_sum(id, visit_id, moment, facts);
      UPDATE measurement SET sum = row_sum(id, visit_id, moment, readings);
      UPDATE attachment SET sum = row_sum(id, pass_id, name, bytes);
    )sql",
    R"sql(
      ALTER TABLE visit RENAME COLUMN side TO configuration;
      CREATE TABLE frame_channel (
        id INTEGER PRIMARY KEY,
        pass_id INTEGER NOT NULL REFERENCES pass (id),
        name TEXT NOT NULL,
        unit TEXT NOT NULL,
        frame_values BLOB NOT NULL,
        sum INTEGER
      );
    )sql",
    // No table changes: a design may list several variables and configurations, which an older program cannot read.
    "SELECT 1",
    // What a pass says beside its headline. `place`: among the further results of its case, from 1. And whether its
    // case is possible: without a condition, why it does not run.
    R"sql(
      CREATE TABLE result (
        id INTEGER PRIMARY KEY,
        pass_id INTEGER NOT NULL REFERENCES pass (id),
        place INTEGER NOT NULL,
        value REAL,
        reason TEXT NOT NULL,
        sum INTEGER,
        UNIQUE (pass_id, place)
      );
      CREATE TABLE possible (
        id INTEGER PRIMARY KEY,
        pass_id INTEGER NOT NULL REFERENCES pass (id),
        condition TEXT NOT NULL,
        reason TEXT NOT NULL,
        sum INTEGER
      );
    )sql",
    // What ran beside a pass: all that it printed.
    R"sql(
      CREATE TABLE companion (
        id INTEGER PRIMARY KEY,
        pass_id INTEGER NOT NULL REFERENCES pass (id),
        output BLOB NOT NULL,
        sum INTEGER
      );
    )sql",
    // Pictures of how a visit was set up, each kept once whatever it is shown for. And a design may have a second part,
    // which an older program would judge wrongly.
    R"sql(
      CREATE TABLE picture (
        id INTEGER PRIMARY KEY,
        digest TEXT NOT NULL UNIQUE,
        bytes BLOB NOT NULL,
        sum INTEGER
      );
      CREATE TABLE visit_picture (
        id INTEGER PRIMARY KEY,
        visit_id INTEGER NOT NULL REFERENCES visit (id),
        digest TEXT NOT NULL REFERENCES picture (digest),
        name TEXT NOT NULL,
        at_ms INTEGER NOT NULL,
        person TEXT NOT NULL,
        sum INTEGER
      );
    )sql",
    // Which study this is, wherever it lies. Of older ones by how they began, so that each of two copies says the same;
    // a sum that was wrong stays so.
    R"sql(
      ALTER TABLE study ADD COLUMN identity TEXT NOT NULL DEFAULT '';
      UPDATE study SET identity = coalesce(
        (SELECT printf('%08x%08x%012x', row_sum(v.boot_id, v.configuration), row_sum(p.slot, p.started_ms, p.duration_s),
          v.started_ms)
          FROM visit v LEFT JOIN pass p ON p.id = (SELECT min(id) FROM pass) ORDER BY v.id LIMIT 1),
        printf('%08x%08x', row_sum(design), length(design)));
      UPDATE study SET sum = CASE WHEN sum IS row_sum(id, design) THEN row_sum(id, design, identity) ELSE sum END;
    )sql",
    // No table changes: visits may be an earlier study's, which an older program would take for interleaved ones.
    "SELECT 1",
};

core::Result<int> versionOf(Database& database) {
  auto statement = database.prepare("PRAGMA user_version");
  if (!statement) return statement.error();
  if (auto row = statement->step(); !row) return row.error();
  return static_cast<int>(statement->integer(0));
}

// Somebody else may take the same step meanwhile: where the file stands is asked again once nobody else can write.
core::Status runSteps(Database& database, std::span<const char* const> steps, int from, int to) {
  for (int version = from; version < to; ++version) {
    const std::string step =
        fmt::format("{}; PRAGMA user_version = {}", steps[static_cast<std::size_t>(version)], version + 1);
    const auto take = [&]() -> core::Status {
      const auto now = versionOf(database);
      if (!now) return now.error();
      return *now > version ? core::Status(core::Done{}) : database.execute(step);
    };
    if (auto done = database.inTransaction(take); !done) return done;
  }
  return core::Done{};
}

// What a file says of its tables: name and kind, and the text that made each.
// SQLite's own notes of how rows are spread are tables, never a trigger or a view of such a name.
bool isStatistics(const std::string& type, const std::string& name) {
  return type == "table" && (name == "sqlite_stat1" || name == "sqlite_stat3" || name == "sqlite_stat4");
}

core::Result<std::map<std::string, std::string>> tablesOf(Database& database) {
  std::map<std::string, std::string> tables;
  const auto read = forEachRow(database, "SELECT type, name, tbl_name, sql FROM sqlite_schema",
                               [&](const Statement& row) -> core::Status {
                                 if (!isStatistics(row.text(0), row.text(1)))
                                   tables[row.text(0) + " '" + row.text(1) + "'"] = row.text(2) + ": " + row.text(3);
                                 return core::Done{};
                               });
  if (!read) return read.error();
  return tables;
}

std::uint32_t bigEndian(const std::array<unsigned char, 100>& header, std::size_t at) {
  return (std::uint32_t{header[at]} << 24) | (std::uint32_t{header[at + 1]} << 16) |
         (std::uint32_t{header[at + 2]} << 8) | std::uint32_t{header[at + 3]};
}

}  // namespace

int currentSchema() { return static_cast<int>(std::size(kSteps)); }

core::Status checkHeader(const std::string& path) {
  const auto file = RegularFile::open(path);
  if (!file) return file.error();
  std::array<unsigned char, 100> header{};
  const std::ptrdiff_t got = file->read(reinterpret_cast<char*>(header.data()), header.size(), 0);
  if (got < 0) return Error{ErrorKind::Io, "the file cannot be read", path, "Check that you may read it"};
  constexpr std::string_view kMagic("SQLite format 3\0", 16);
  const bool is_whole = got == static_cast<std::ptrdiff_t>(header.size());
  // Header fields: user version at byte 60, application id at 68, both big endian.
  if (!std::equal(kMagic.begin(), kMagic.end(), header.begin()) ||
      (is_whole && bigEndian(header, 68) != kApplicationId))
    return Error{ErrorKind::ForeignFile, "this is not a study file", path,
                 "Choose a file that Iron Lever wrote; this one was left as it is"};
  if (!is_whole)
    return Error{ErrorKind::DamagedFile, "the study file is cut short", path,
                 "Restore it from a copy; this one was left as it is"};
  // Bytes 18 and 19 say how it is written: 1 with a rollback journal, as ours always are.
  if (header[18] != 1 || header[19] != 1)
    return Error{ErrorKind::ForeignFile, "another program has set this study to a write-ahead log", path,
                 "Have that program set it back to a rollback journal; this one was left as it is"};
  const auto version = bigEndian(header, 60);
  if (version > static_cast<std::uint32_t>(currentSchema()))
    return Error{ErrorKind::NewerFile,
                 "this study was written by a newer version of the program (schema " + std::to_string(version) +
                     ", this one knows " + std::to_string(currentSchema()) + ")",
                 path, "Open it with that version; the file was left as it is"};
  return core::Done{};
}

core::Status checkTables(Database& database) {
  const auto version = versionOf(database);
  if (!version) return version.error();
  auto model = Database::inMemory();
  if (!model) return model.error();
  if (auto added = addRowSum(*model); !added) return added;
  if (auto made = runSteps(*model, kSteps, 0, std::clamp(*version, 0, currentSchema())); !made) return made;
  const auto expected = tablesOf(*model);
  const auto found = tablesOf(database);
  if (!expected) return expected.error();
  if (!found) return found.error();
  for (const auto& [name, text] : *found)
    if (!expected->contains(name))
      return Error{ErrorKind::ForeignFile, fmt::format("the file holds a {} that no study has", name), database.path(),
                   "Choose a file that Iron Lever wrote; this one was left as it is"};
  for (const auto& [name, text] : *expected)
    if (const auto same = found->find(name); same == found->end() || same->second != text)
      return Error{ErrorKind::DamagedFile, fmt::format("the {} of the study file is not as in every study", name),
                   database.path(), "Restore it from a copy; this one was left as it is"};
  return core::Done{};
}

core::Status migrate(Database& database) { return migrate(database, kSteps); }

core::Status migrate(Database& database, std::span<const char* const> steps) {
  const auto version = versionOf(database);
  if (!version) return version.error();
  return runSteps(database, steps, *version, static_cast<int>(steps.size()));
}

}  // namespace store
