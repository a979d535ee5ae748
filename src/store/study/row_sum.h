#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "store/study/database.h"

namespace store {

/// Every row of a study carries the sum of its values, so that damage on a disk or a stick is not taken for a result.
/// The sum is the CRC-32 (IEEE 802.3) of the values in the order of the columns: of each a letter (n, i, r, t or b for
/// NULL, integer, real, text, blob), its length in bytes as 8 bytes, and its bytes; numbers as 8 bytes, all little
/// endian. It finds damage; it is no proof of who wrote the row.

/// Makes the SQL function row_sum(...) known to a connection.
core::Status addRowSum(Database& database);

/// A study's tables.
[[nodiscard]] std::vector<std::string> summedTables();

/// The columns of a table that its sum covers, as a list for SQL: all but the sum, `id` first. `table`: one of a
/// study's.
[[nodiscard]] const char* summedColumns(const std::string& table);

/// Writes the sum of a row that was just written. Errors besides those of Database: DamagedFile where no row was
/// written, whatever the file said.
core::Status sealRow(Database& database, const std::string& table, std::int64_t id);

/// The ids of the rows whose values are not those that were written.
[[nodiscard]] core::Result<std::vector<std::int64_t>> damagedRows(Database& database, const std::string& table);

}  // namespace store
