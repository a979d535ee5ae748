// Every text of a study, wherever it stands: what is new in the schema is looked at without anybody remembering to.
#include <algorithm>
#include <array>

#include <fmt/format.h>

#include "store/study/frame_codec.h"
#include "store/study/row_sum.h"
#include "store/study/study_file.h"
#include "store/study/study_texts.h"

namespace store {
namespace {

/// Packed numbers, pictures, and what was drawn at random: no text is in them that a search would find.
constexpr std::array<std::string_view, 4> kNoText{"frames", "frame_values", "bytes", "identity"};

std::vector<std::string> columnsOf(const std::string& table) {
  std::vector<std::string> columns;
  std::string_view list = summedColumns(table);
  while (!list.empty()) {
    const std::size_t comma = std::min(list.find(", "), list.size());
    columns.emplace_back(list.substr(0, comma));
    list.remove_prefix(std::min(comma + 2, list.size()));
  }
  return columns;
}

core::Status forEachTextOf(Database& database, const std::function<void(const StudyFile::Text&)>& take) {
  for (const std::string& table : summedTables()) {
    const std::vector<std::string> columns = columnsOf(table);
    const auto read = forEachRow(database, fmt::format("SELECT {} FROM {} ORDER BY id", summedColumns(table), table),
                                 [&](const Statement& row) -> core::Status {
                                   for (std::size_t i = 1; i < columns.size(); ++i) {
                                     const int place = static_cast<int>(i);
                                     if (std::find(kNoText.begin(), kNoText.end(), columns[i]) != kNoText.end())
                                       continue;
                                     if (row.isText(place))
                                       take({table, row.integer(0), columns[i], row.text(place), false});
                                     if (!row.isBlob(place)) continue;
                                     if (const auto text = unpackText(row.blob(place)))
                                       take({table, row.integer(0), columns[i], *text, true});
                                   }
                                   return core::Done{};
                                 });
    if (!read) return read;
  }
  return core::Done{};
}

core::Status writeText(Database& database, const StudyFile::Text& text) {
  auto statement = database.prepare(fmt::format("UPDATE {} SET {} = ?1 WHERE id = ?2", text.table, text.column));
  if (!statement) return statement.error();
  statement->bind(2, text.row);
  if (text.is_packed)
    statement->bind(1, Blob{packText(text.text)});
  else
    statement->bind(1, std::string_view(text.text));
  if (auto written = stepOnce(*statement); !written) return written;
  return sealRow(database, text.table, text.row);
}

}  // namespace

core::Status forEachText(StudyFile& file, const std::function<void(const StudyFile::Text&)>& take) {
  return forEachTextOf(file.database_, take);
}

core::Status rewriteTexts(const std::string& path, const Rewriting& rewriting) {
  auto database = Database::open(path, Database::Mode::OpenExisting);
  if (!database) return database.error();
  if (auto added = addRowSum(*database); !added) return added;
  const auto write = [&]() -> core::Status {
    if (!rewriting.keeps_pictures)
      if (auto dropped = database->execute("DELETE FROM visit_picture; DELETE FROM picture; DELETE FROM attachment");
          !dropped)
        return dropped;
    std::vector<StudyFile::Text> changed;
    const auto read = forEachTextOf(*database, [&](const StudyFile::Text& text) {
      if (std::string anew = rewriting.text(text); anew != text.text)
        changed.push_back({text.table, text.row, text.column, std::move(anew), text.is_packed});
    });
    if (!read) return read;
    for (const StudyFile::Text& text : changed)
      if (auto written = writeText(*database, text); !written) return written;
    return core::Done{};
  };
  if (auto written = database->inTransaction(write); !written) return written;
  return database->execute("VACUUM");  // what stood in pages that are free now is gone
}

}  // namespace store
