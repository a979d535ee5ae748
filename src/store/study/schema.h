#pragma once

#include <cstdint>
#include <span>

#include "store/study/database.h"

namespace store {

/// Marks an SQLite file as a study ("IrLv"). In the file's header; never changed.
constexpr std::uint32_t kApplicationId = 0x49724C76;

/// The schema that this program writes. A file with a higher number is refused.
[[nodiscard]] int currentSchema();

/// Looks at the file's first 100 bytes without opening it as a database, so that a refused file stays untouched.
/// Errors  Missing, ForeignFile, NewerFile, DamagedFile, Io
[[nodiscard]] core::Status checkHeader(const std::string& path);

/// Compares the tables, indices, triggers and views with those that every study of this schema has, before anything of
/// them is read. Errors  ForeignFile for one that no study has, by its name; DamagedFile for one that is missing or
/// another
[[nodiscard]] core::Status checkTables(Database& database);

/// Brings a study from the schema it has to the current one, each step in a transaction of its own.
[[nodiscard]] core::Status migrate(Database& database);
/// The same for any file of ours: step i leads from schema i to i + 1.
[[nodiscard]] core::Status migrate(Database& database, std::span<const char* const> steps);

}  // namespace store
