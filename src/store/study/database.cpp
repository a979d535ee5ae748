#include "store/study/database.h"

#include <sys/stat.h>

#include <filesystem>
#include <utility>

#include <sqlite3.h>

#include "store/files/side_files.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;

Error errorOf(sqlite3* database, const std::string& path) {
  const int code = database ? sqlite3_errcode(database) : SQLITE_NOMEM;
  switch (code & 0xff) {
    case SQLITE_FULL:
      return {ErrorKind::DiskFull, "the disk is full", path, "Free some space, then go on: nothing recorded is lost"};
    case SQLITE_BUSY:
    case SQLITE_LOCKED:
      return {ErrorKind::Busy, "another program is writing to the study", path, "Close it there, then try again"};
    case SQLITE_CORRUPT:
      return {ErrorKind::DamagedFile, "the study file is damaged or cut short", path,
              "Restore it from a copy; this one was left as it is"};
    case SQLITE_NOTADB:
      return {ErrorKind::ForeignFile, "this is not a study file", path, "Choose a file that Iron Lever wrote"};
    case SQLITE_READONLY:
    case SQLITE_PERM:
    case SQLITE_CANTOPEN:
      return {ErrorKind::Io, "the study file cannot be opened for writing", path,
              "Check that the folder exists and that you may write there"};
    case SQLITE_INTERRUPT:
    case SQLITE_TOOBIG:
      return {ErrorKind::DamagedFile, "the study file asks for work or memory without end", path,
              "Restore it from a copy; this one was left as it is"};
    default:
      return {ErrorKind::Io,
              std::string("reading or writing failed (") + (database ? sqlite3_errmsg(database) : "no memory") + ")",
              path, "Check the disk, then try again"};
  }
}

// A value is at most as large as a series of frames may be; a row is found, or a statement done, within so many of
// SQLite's own steps: about a minute.
constexpr int kMostCellBytes = 1 << 30;
constexpr int kStepsAtOnce = 1'000'000;
constexpr int kMostWork = 2'000;

std::optional<std::pair<std::uint64_t, std::uint64_t>> placeOf(const std::string& path) {
  struct stat status {};
  if (::stat(path.c_str(), &status) != 0) return std::nullopt;
  return std::pair<std::uint64_t, std::uint64_t>(status.st_dev, status.st_ino);
}

int endWork(void* work) { return ++*static_cast<int*>(work) > kMostWork ? 1 : 0; }

}  // namespace

void Statement::Finalize::operator()(sqlite3_stmt* statement) const { sqlite3_finalize(statement); }
void Database::Close::operator()(sqlite3* database) const { sqlite3_close(database); }

Statement& Statement::bind(int index, std::int64_t value) {
  sqlite3_bind_int64(handle_.get(), index, value);
  return *this;
}
Statement& Statement::bind(int index, double value) {
  sqlite3_bind_double(handle_.get(), index, value);
  return *this;
}
Statement& Statement::bind(int index, std::string_view text) {
  sqlite3_bind_text64(handle_.get(), index, text.data(), text.size(), SQLITE_TRANSIENT, SQLITE_UTF8);
  return *this;
}
Statement& Statement::bind(int index, const Blob& blob) {
  sqlite3_bind_blob64(handle_.get(), index, blob.bytes.data(), blob.bytes.size(), SQLITE_TRANSIENT);
  return *this;
}
Statement& Statement::bind(int index, const std::optional<double>& value) {
  return value ? bind(index, *value) : (sqlite3_bind_null(handle_.get(), index), *this);
}

core::Result<bool> Statement::step() {
  *work_ = 0;
  const int code = sqlite3_step(handle_.get());
  if (code == SQLITE_ROW) return true;
  if (code == SQLITE_DONE) return false;
  return errorOf(sqlite3_db_handle(handle_.get()), path_);
}

std::int64_t Statement::integer(int column) const { return sqlite3_column_int64(handle_.get(), column); }
double Statement::real(int column) const { return sqlite3_column_double(handle_.get(), column); }
bool Statement::isNull(int column) const { return sqlite3_column_type(handle_.get(), column) == SQLITE_NULL; }
bool Statement::isText(int column) const { return sqlite3_column_type(handle_.get(), column) == SQLITE_TEXT; }
bool Statement::isBlob(int column) const { return sqlite3_column_type(handle_.get(), column) == SQLITE_BLOB; }
std::string Statement::text(int column) const { return blob(column); }
std::string Statement::blob(int column) const {
  const auto* bytes = static_cast<const char*>(sqlite3_column_blob(handle_.get(), column));
  return bytes ? std::string(bytes, static_cast<std::size_t>(sqlite3_column_bytes(handle_.get(), column)))
               : std::string();
}

core::Result<Database> Database::open(const std::string& path, Mode mode) {
  if (auto checked = checkSideFiles(path); !checked) return checked.error();
  Database database;
  database.path_ = path;
  sqlite3* handle = nullptr;
  const int flags = SQLITE_OPEN_READWRITE | SQLITE_OPEN_NOMUTEX | (mode == Mode::CreateNew ? SQLITE_OPEN_CREATE : 0);
  std::error_code code;
  const std::string whole = std::filesystem::absolute(path, code).string();
  const int opened = sqlite3_open_v2(whole.c_str(), &handle, flags, nullptr);
  database.handle_.reset(handle);
  if (opened != SQLITE_OK) return errorOf(handle, path);
  if (auto prepared = database.prepareForStrangers(); !prepared) return prepared.error();
  sqlite3_busy_timeout(handle, 5000);
  // One file that can be copied at any moment (no side file stays behind), and every commit synced, directory included.
  for (const char* pragma : {"PRAGMA journal_mode = DELETE", "PRAGMA synchronous = EXTRA", "PRAGMA foreign_keys = ON"})
    if (auto set = database.execute(pragma); !set) return set.error();
  database.place_ = placeOf(path);
  return database;
}

core::Result<Database> Database::inMemory() {
  Database database;
  database.path_ = "memory";
  sqlite3* handle = nullptr;
  const int opened = sqlite3_open_v2(":memory:", &handle, SQLITE_OPEN_READWRITE | SQLITE_OPEN_MEMORY, nullptr);
  database.handle_.reset(handle);
  if (opened != SQLITE_OK) return errorOf(handle, database.path_);
  return database;
}

core::Status Database::checkPlace() const {
  // Of a file that was copied over, nothing that was read before holds, whatever its count of changes says.
  sqlite3_db_release_memory(handle_.get());
  if (!place_ || place_ == placeOf(path_)) return core::Done{};
  return Error{ErrorKind::Missing, "the file was moved, deleted or replaced while it was open", path_,
               "Put it back where it was, then go on; nothing more is written until then"};
}

core::Status Database::prepareForStrangers() {
  sqlite3* const handle = handle_.get();
  for (const auto& [option, value] :
       {std::pair{SQLITE_DBCONFIG_DEFENSIVE, 1}, std::pair{SQLITE_DBCONFIG_TRUSTED_SCHEMA, 0},
        std::pair{SQLITE_DBCONFIG_ENABLE_TRIGGER, 0}, std::pair{SQLITE_DBCONFIG_ENABLE_VIEW, 0},
        std::pair{SQLITE_DBCONFIG_ENABLE_LOAD_EXTENSION, 0}, std::pair{SQLITE_DBCONFIG_WRITABLE_SCHEMA, 0}})
    if (sqlite3_db_config(handle, option, value, nullptr) != SQLITE_OK) return errorOf(handle, path_);
  sqlite3_limit(handle, SQLITE_LIMIT_LENGTH, kMostCellBytes);
  sqlite3_limit(handle, SQLITE_LIMIT_ATTACHED, 1);  // for VACUUM INTO
  sqlite3_limit(handle, SQLITE_LIMIT_SQL_LENGTH, 1 << 16);
  sqlite3_progress_handler(handle, kStepsAtOnce, endWork, work_.get());
  return core::Done{};
}

core::Status Database::addFunction(const char* name, void (*function)(sqlite3_context*, int, sqlite3_value**)) {
  constexpr int kFlags = SQLITE_UTF8 | SQLITE_DETERMINISTIC | SQLITE_DIRECTONLY;
  if (sqlite3_create_function_v2(handle_.get(), name, -1, kFlags, nullptr, function, nullptr, nullptr, nullptr) ==
      SQLITE_OK)
    return core::Done{};
  return errorOf(handle_.get(), path_);
}

core::Status Database::execute(const std::string& sql) {
  *work_ = 0;
  if (sqlite3_exec(handle_.get(), sql.c_str(), nullptr, nullptr, nullptr) == SQLITE_OK) return core::Done{};
  return errorOf(handle_.get(), path_);
}

core::Result<Statement> Database::prepare(const std::string& sql) {
  Statement statement;
  statement.path_ = path_;
  statement.work_ = work_.get();
  sqlite3_stmt* handle = nullptr;
  const int code = sqlite3_prepare_v2(handle_.get(), sql.c_str(), static_cast<int>(sql.size()), &handle, nullptr);
  statement.handle_.reset(handle);
  if (code != SQLITE_OK) return errorOf(handle_.get(), path_);
  return statement;
}

int Database::changedRows() const { return sqlite3_changes(handle_.get()); }
bool Database::isInTransaction() const { return sqlite3_get_autocommit(handle_.get()) == 0; }

std::int64_t Database::lastInsertId() const { return sqlite3_last_insert_rowid(handle_.get()); }

core::Status stepOnce(Statement& statement) {
  const auto row = statement.step();
  return row ? core::Status(core::Done{}) : core::Status(row.error());
}

}  // namespace store
