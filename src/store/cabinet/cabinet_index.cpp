#include "store/cabinet/cabinet_index.h"

#include <algorithm>
#include <filesystem>
#include <limits>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "store/cabinet/day_span.h"
#include "store/study/schema.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;
using core::Status;

constexpr const char* kCabinetSteps[] = {
    R"sql(
      CREATE TABLE folder (path TEXT PRIMARY KEY);
      CREATE TABLE entry (
        id INTEGER PRIMARY KEY,
        path TEXT NOT NULL UNIQUE,
        size INTEGER NOT NULL,
        changed_ns INTEGER NOT NULL,
        bench_state INTEGER NOT NULL,
        sentence TEXT NOT NULL,
        answer TEXT NOT NULL,
        bench TEXT NOT NULL,
        variable TEXT NOT NULL,
        shape TEXT NOT NULL,
        at_ms INTEGER NOT NULL,
        state TEXT NOT NULL,
        stops INTEGER NOT NULL,
        cautions INTEGER NOT NULL,
        notes INTEGER NOT NULL,
        retired_by TEXT NOT NULL
      );
      CREATE VIRTUAL TABLE words USING fts5 (text, tokenize = 'unicode61');
    )sql",
    // What is new of each is read anew: the folders stay.
    R"sql(
      DELETE FROM words;
      DELETE FROM entry;
      ALTER TABLE entry ADD COLUMN identity TEXT NOT NULL DEFAULT '';
      ALTER TABLE entry ADD COLUMN begun_ms INTEGER NOT NULL DEFAULT 0;
      ALTER TABLE entry ADD COLUMN passes INTEGER NOT NULL DEFAULT 0;
      CREATE INDEX copies ON entry (identity, begun_ms);
    )sql",
    R"sql(
      DELETE FROM words;
      DELETE FROM entry;
      ALTER TABLE entry ADD COLUMN copy_of TEXT NOT NULL DEFAULT '';
    )sql",
};

// Of copies the one with the most passes is the study. Told when an entry changes, not when somebody looks, and for all
// in one go: each by itself would look at all of its copies, and thousands of copies of one study would take minutes.
constexpr const char* kTellCopiesApart =
    "UPDATE entry SET copy_of = best.copy_of FROM (SELECT id AS of, ifnull(nullif(first_value(path) OVER (PARTITION BY "
    "identity, begun_ms ORDER BY passes DESC, path), path), '') AS copy_of FROM entry WHERE identity <> '') AS best "
    "WHERE best.of = id AND entry.copy_of <> best.copy_of";

constexpr const char* kColumns =
    "path, size, changed_ns, bench_state, sentence, answer, bench, variable, shape, at_ms, state, stops, cautions, "
    "notes, retired_by, identity, begun_ms, passes";

CabinetIndex::Entry entryOf(const Statement& row) {
  CabinetIndex::Entry entry;
  entry.path = row.text(0);
  entry.size = row.integer(1);
  entry.changed_ns = row.integer(2);
  entry.bench_state = row.integer(3);
  entry.sentence = row.text(4);
  entry.answer = row.text(5);
  entry.bench = row.text(6);
  entry.variable = row.text(7);
  entry.shape = row.text(8);
  entry.at_ms = row.integer(9);
  entry.state = row.text(10);
  entry.stops = static_cast<int>(row.integer(11));
  entry.cautions = static_cast<int>(row.integer(12));
  entry.notes = static_cast<int>(row.integer(13));
  const auto retired = nlohmann::json::parse(row.text(14), nullptr, false);
  for (const auto& one : retired.is_array() ? retired : nlohmann::json::array())
    if (one.is_string()) entry.retired_by.push_back(one.get<std::string>());
  entry.identity = row.text(15);
  entry.begun_ms = row.integer(16);
  entry.passes = row.integer(17);
  return entry;
}

/// What is looked for: words, and days between which a study was measured last.
struct Sought {
  std::string query;  ///< of the full-text search
  DaySpan days{std::numeric_limits<std::int64_t>::min(), std::numeric_limits<std::int64_t>::max()};
};

// Whatever a person types is looked for as words, never as a language of its own: each in quotes, as a beginning. Of
// several spans of days what they have in common.
Sought soughtIn(const std::string& words) {
  Sought sought;
  std::string word;
  const auto end = [&] {
    if (const auto span = daySpanOf(word))
      sought.days = {std::max(sought.days.from_ms, span->from_ms), std::min(sought.days.until_ms, span->until_ms)};
    else if (!word.empty())
      sought.query += (sought.query.empty() ? "\"" : " \"") + word + "\"*";
    word.clear();
  };
  for (const char c : words) {
    if (c == ' ' || c == '\t' || c == '\n' || c == '"')
      end();
    else
      word += c;
  }
  end();
  return sought;
}

// Below a folder, that is: its name, a slash, and more.
constexpr const char* kBelow = "substr(path, 1, length(?1) + 1) = ?1 || '/'";

Status remove(Database& database, const std::string& where, const std::string& value) {
  for (const char* sql :
       {"DELETE FROM words WHERE rowid IN (SELECT id FROM entry WHERE {})", "DELETE FROM entry WHERE {}"}) {
    auto statement = database.prepare(fmt::format(fmt::runtime(sql), where));
    if (!statement) return statement.error();
    if (auto done = stepOnce(statement->bind(1, std::string_view(value))); !done) return done;
  }
  return core::Done{};
}

Status insert(Database& database, const CabinetIndex::Entry& entry) {
  if (auto removed = remove(database, "path = ?1", entry.path); !removed) return removed;
  auto statement = database.prepare(fmt::format(
      "INSERT INTO entry ({}) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, ?15, ?16, ?17, ?18)",
      kColumns));
  if (!statement) return statement.error();
  const std::string retired =
      nlohmann::json(entry.retired_by).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
  statement->bind(1, std::string_view(entry.path)).bind(2, entry.size).bind(3, entry.changed_ns);
  statement->bind(4, entry.bench_state).bind(5, std::string_view(entry.sentence));
  statement->bind(6, std::string_view(entry.answer)).bind(7, std::string_view(entry.bench));
  statement->bind(8, std::string_view(entry.variable)).bind(9, std::string_view(entry.shape)).bind(10, entry.at_ms);
  statement->bind(11, std::string_view(entry.state)).bind(12, std::int64_t{entry.stops});
  statement->bind(13, std::int64_t{entry.cautions}).bind(14, std::int64_t{entry.notes});
  statement->bind(15, std::string_view(retired)).bind(16, std::string_view(entry.identity));
  if (auto done = stepOnce(statement->bind(17, entry.begun_ms).bind(18, entry.passes)); !done) return done;
  const std::int64_t id = database.lastInsertId();
  auto words = database.prepare("INSERT INTO words (rowid, text) VALUES (?1, ?2)");
  if (!words) return words.error();
  return stepOnce(words->bind(1, id).bind(2, std::string_view(entry.words)));
}

}  // namespace

core::Result<Database> CabinetIndex::open() const {
  std::error_code code;
  std::filesystem::create_directories(std::filesystem::path(path_).parent_path(), code);
  const auto attempt = [&]() -> core::Result<Database> {
    const bool exists = std::filesystem::exists(path_, code);
    auto database = Database::open(path_, exists ? Database::Mode::OpenExisting : Database::Mode::CreateNew);
    if (!database) return database;
    if (auto migrated = migrate(*database, kCabinetSteps); !migrated) return migrated.error();
    return database;
  };
  const auto is_useless = [](const core::Result<Database>& opened) {
    if (opened) return false;
    const ErrorKind kind = opened.error().kind;
    return kind == ErrorKind::DamagedFile || kind == ErrorKind::NewerFile || kind == ErrorKind::ForeignFile;
  };
  auto database = attempt();
  if (!is_useless(database)) return database;
  database = attempt();  // what another program writes at this moment may look like damage for as long
  if (!is_useless(database)) return database;
  std::filesystem::remove(path_, code);  // it is made again from the studies
  return attempt();
}

core::Result<std::vector<std::string>> CabinetIndex::folders() const {
  auto database = open();
  if (!database) return database.error();
  std::vector<std::string> all;
  const auto read =
      forEachRow(*database, "SELECT path FROM folder ORDER BY rowid", [&](const Statement& row) -> Status {
        all.push_back(row.text(0));
        return core::Done{};
      });
  if (!read) return read.error();
  return all;
}

Status CabinetIndex::addFolder(const std::string& folder) {
  auto database = open();
  if (!database) return database.error();
  return database->inTransaction([&]() -> Status {
    auto statement = database->prepare(
        "INSERT INTO folder (path) SELECT ?1 WHERE NOT EXISTS (SELECT 1 FROM folder WHERE path = ?1)");
    if (!statement) return statement.error();
    if (auto done = stepOnce(statement->bind(1, std::string_view(folder))); !done) return done;
    if (database->changedRows() > 0) return core::Done{};
    return Error{ErrorKind::NotAllowed, "this folder is in the cabinet already", folder, "Nothing has to be done"};
  });
}

Status CabinetIndex::removeFolder(const std::string& folder) {
  auto database = open();
  if (!database) return database.error();
  return database->inTransaction([&]() -> Status {
    auto statement = database->prepare("DELETE FROM folder WHERE path = ?1");
    if (!statement) return statement.error();
    if (auto done = stepOnce(statement->bind(1, std::string_view(folder))); !done) return done;
    if (database->changedRows() == 0)
      return Error{ErrorKind::Missing, "this folder is not in the cabinet", folder,
                   "List them with: iron-lever-cli cabinet --json"};
    if (auto removed = remove(*database, kBelow, folder); !removed) return removed;
    return database->execute(kTellCopiesApart);
  });
}

core::Result<std::map<std::string, CabinetIndex::Entry>> CabinetIndex::known() const {
  auto database = open();
  if (!database) return database.error();
  std::map<std::string, Entry> all;
  const auto read =
      forEachRow(*database, fmt::format("SELECT {} FROM entry", kColumns), [&](const Statement& row) -> Status {
        Entry entry = entryOf(row);
        all[entry.path] = std::move(entry);
        return core::Done{};
      });
  if (!read) return read.error();
  return all;
}

Status CabinetIndex::update(const std::vector<Entry>& read, const std::vector<std::string>& gone) {
  if (read.empty() && gone.empty()) return core::Done{};
  auto database = open();
  if (!database) return database.error();
  return database->inTransaction([&]() -> Status {
    for (const std::string& path : gone)
      if (auto removed = remove(*database, "path = ?1", path); !removed) return removed;
    for (const Entry& one : read)
      if (auto inserted = insert(*database, one); !inserted) return inserted;
    return database->execute(kTellCopiesApart);
  });
}

core::Result<std::vector<CabinetIndex::Entry>> CabinetIndex::find(const std::string& words) const {
  auto database = open();
  if (!database) return database.error();
  const Sought sought = soughtIn(words);
  const std::string among = sought.query.empty() ? "" : "AND id IN (SELECT rowid FROM words WHERE words MATCH ?1)";
  auto statement =
      database->prepare(fmt::format("SELECT {}, copy_of FROM entry WHERE at_ms >= ?2 AND at_ms < ?3 {} "
                                    "ORDER BY state <> 'running', at_ms DESC, path",
                                    kColumns, among));
  if (!statement) return statement.error();
  if (!sought.query.empty()) statement->bind(1, std::string_view(sought.query));
  statement->bind(2, sought.days.from_ms).bind(3, sought.days.until_ms);
  std::vector<Entry> found;
  for (auto row = statement->step();; row = statement->step()) {
    if (!row) return row.error();
    if (!*row) return found;
    found.push_back(entryOf(*statement));
    found.back().copy_of = statement->text(18);
  }
}

core::Result<std::string> CabinetIndex::pathOf(const std::string& identity) const {
  auto database = open();
  if (!database) return database.error();
  auto statement =
      database->prepare("SELECT path FROM entry WHERE identity = ?1 AND ?1 <> '' ORDER BY passes DESC, path LIMIT 1");
  if (!statement) return statement.error();
  const auto row = statement->bind(1, std::string_view(identity)).step();
  if (!row) return row.error();
  return *row ? statement->text(0) : std::string();
}

}  // namespace store
