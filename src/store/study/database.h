#pragma once

#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <utility>

#include "core/values/result.h"

struct sqlite3;
struct sqlite3_context;
struct sqlite3_stmt;
struct sqlite3_value;

namespace store {

/// Bytes to bind as a blob, or read as one.
struct Blob {
  std::string bytes;
};

/// One prepared statement. Parameters are always bound, never pasted. Numbered from 1 as in SQL; columns from 0.
class Statement {
 public:
  Statement& bind(int index, std::int64_t value);
  Statement& bind(int index, double value);
  Statement& bind(int index, std::string_view text);
  Statement& bind(int index, const Blob& blob);
  Statement& bind(int index, const std::optional<double>& value);

  /// True while there is a row. Errors as Database.
  core::Result<bool> step();

  [[nodiscard]] std::int64_t integer(int column) const;
  [[nodiscard]] double real(int column) const;
  [[nodiscard]] bool isNull(int column) const;
  [[nodiscard]] bool isText(int column) const;
  [[nodiscard]] bool isBlob(int column) const;
  [[nodiscard]] std::string text(int column) const;
  [[nodiscard]] std::string blob(int column) const;

 private:
  friend class Database;
  struct Finalize {
    void operator()(sqlite3_stmt* statement) const;
  };
  std::unique_ptr<sqlite3_stmt, Finalize> handle_;
  std::string path_;
  int* work_ = nullptr;  ///< of the connection
};

/// A connection to one SQLite file, opened for power cuts: every commit is on the disk before it returns. The file is a
/// stranger's: triggers and views do nothing, its tables cannot be tampered with through SQL, and no statement works
/// without end. Errors of all functions: DiskFull, Io, Busy, DamagedFile, ForeignFile, each naming the file. One thread
/// at a time.
class Database {
 public:
  enum class Mode { CreateNew, OpenExisting };
  /// The path is a path, whatever it looks like: no URI, and no name of a database in memory.
  [[nodiscard]] static core::Result<Database> open(const std::string& path, Mode mode);
  /// One without a file, to see what a schema looks like.
  [[nodiscard]] static core::Result<Database> inMemory();

  /// A deterministic SQL function of any number of values, for statements of ours only.
  core::Status addFunction(const char* name, void (*function)(sqlite3_context*, int, sqlite3_value**));

  core::Status execute(const std::string& sql);
  [[nodiscard]] core::Result<Statement> prepare(const std::string& sql);
  [[nodiscard]] std::int64_t lastInsertId() const;
  /// By the last statement that wrote.
  [[nodiscard]] int changedRows() const;
  [[nodiscard]] const std::string& path() const { return path_; }

  /// Runs `work` in one transaction that holds the write lock from its beginning: all of it is committed, or nothing.
  /// Within another one it is part of that one.
  template <class Work>
  core::Status inTransaction(Work&& work) {
    if (isInTransaction()) return work();
    if (auto there = checkPlace(); !there) return there;
    if (auto begun = execute("BEGIN IMMEDIATE"); !begun) return begun;
    core::Status done = work();
    if (done) done = execute("COMMIT");
    if (!done) (void)execute("ROLLBACK");  // the first error is the one to report
    return done;
  }

 private:
  struct Close {
    void operator()(sqlite3* database) const;
  };
  [[nodiscard]] bool isInTransaction() const;
  core::Status prepareForStrangers();
  /// Errors  Missing where the path no longer names the file that is open: what is written would be lost
  [[nodiscard]] core::Status checkPlace() const;

  std::unique_ptr<int> work_ = std::make_unique<int>(0);  ///< of the statement at hand, in millions of steps
  std::unique_ptr<sqlite3, Close> handle_;
  std::string path_;
  std::optional<std::pair<std::uint64_t, std::uint64_t>> place_;  ///< device and inode; none in memory
};

/// Steps a statement that yields no rows.
core::Status stepOnce(Statement& statement);

/// Calls `take`, which returns a Status, for every row. An error of either ends it.
template <class Take>
core::Status forEachRow(Database& database, const std::string& sql, Take&& take) {
  auto statement = database.prepare(sql);
  if (!statement) return statement.error();
  for (auto row = statement->step();; row = statement->step()) {
    if (!row) return row.error();
    if (!*row) return core::Done{};
    if (core::Status taken = take(*statement); !taken) return taken;
  }
}

}  // namespace store
