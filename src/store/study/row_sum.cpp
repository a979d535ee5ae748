#include "store/study/row_sum.h"

#include <array>
#include <bit>
#include <cstring>

#include <fmt/format.h>
#include <sqlite3.h>
#include <zlib.h>

namespace store {
namespace {

using core::Error;
using core::ErrorKind;

static_assert(std::endian::native == std::endian::little, "sums are taken of little-endian numbers");

class Sum {
 public:
  void add(char letter, const void* bytes, std::uint64_t count) {
    std::array<unsigned char, 1 + sizeof count> head{static_cast<unsigned char>(letter)};
    std::memcpy(head.data() + 1, &count, sizeof count);
    sum_ = crc32_z(sum_, head.data(), head.size());
    if (count > 0) sum_ = crc32_z(sum_, static_cast<const Bytef*>(bytes), count);
  }
  [[nodiscard]] std::int64_t value() const { return static_cast<std::int64_t>(sum_); }

 private:
  uLong sum_ = crc32_z(0, nullptr, 0);
};

void addValue(Sum& sum, sqlite3_value* value) {
  const int type = sqlite3_value_type(value);
  if (type == SQLITE_NULL) return sum.add('n', nullptr, 0);
  if (type == SQLITE_INTEGER) {
    const sqlite3_int64 number = sqlite3_value_int64(value);
    return sum.add('i', &number, sizeof number);
  }
  if (type == SQLITE_FLOAT) {
    const double number = sqlite3_value_double(value);
    return sum.add('r', &number, sizeof number);
  }
  const void* const bytes = type == SQLITE_TEXT ? sqlite3_value_text(value) : sqlite3_value_blob(value);
  sum.add(type == SQLITE_TEXT ? 't' : 'b', bytes, static_cast<std::uint64_t>(sqlite3_value_bytes(value)));
}

void rowSum(sqlite3_context* context, int count, sqlite3_value** values) {
  Sum sum;
  for (int i = 0; i < count; ++i) addValue(sum, values[i]);
  sqlite3_result_int64(context, sum.value());
}

// In step with the schema: a step that adds a column seals the rows anew.
constexpr std::array<std::pair<std::string_view, const char*>, 13> kSummed{{
    {"study", "id, design, identity"},
    {"visit", "id, planned, round, configuration, boot_id, started_ms"},
    {"pass",
     "id, visit_id, slot, attempt, status, failure, started_ms, duration_s, value, frames, output, error_output, "
     "loads, "
     "others_busy, settings, samples, presentation, typed, origin, frame_count"},
    {"event", "id, at_ms, person, kind, subject, text"},
    {"capture", "id, visit_id, moment, facts"},
    {"measurement", "id, visit_id, moment, readings"},
    {"attachment", "id, pass_id, name, bytes"},
    {"frame_channel", "id, pass_id, name, unit, frame_values"},
    {"result", "id, pass_id, place, value, reason"},
    {"possible", "id, pass_id, condition, reason"},
    {"companion", "id, pass_id, output"},
    {"picture", "id, digest, bytes"},
    {"visit_picture", "id, visit_id, digest, name, at_ms, person"},
}};

}  // namespace

core::Status addRowSum(Database& database) { return database.addFunction("row_sum", rowSum); }

std::vector<std::string> summedTables() {
  std::vector<std::string> tables;
  for (const auto& [name, columns] : kSummed) tables.emplace_back(name);
  return tables;
}

const char* summedColumns(const std::string& table) {
  for (const auto& [name, columns] : kSummed)
    if (name == table) return columns;
  return "id";
}

core::Status sealRow(Database& database, const std::string& table, std::int64_t id) {
  auto statement =
      database.prepare(fmt::format("UPDATE {0} SET sum = row_sum({1}) WHERE id = ?1", table, summedColumns(table)));
  if (!statement) return statement.error();
  if (auto sealed = stepOnce(statement->bind(1, id)); !sealed) return sealed;
  if (database.changedRows() == 1) return core::Done{};
  return Error{ErrorKind::DamagedFile, "the study file took a row and does not have it", database.path(),
               "Restore it from a copy; nothing recorded before is lost"};
}

core::Result<std::vector<std::int64_t>> damagedRows(Database& database, const std::string& table) {
  std::vector<std::int64_t> ids;
  const auto read =
      forEachRow(database, fmt::format("SELECT id FROM {0} WHERE sum IS NOT row_sum({1})", table, summedColumns(table)),
                 [&](const Statement& row) -> core::Status {
                   ids.push_back(row.integer(0));
                   return core::Done{};
                 });
  if (!read) return read.error();
  return ids;
}

}  // namespace store
