// Every text of a study, wherever it stands: what is new in the schema is looked at without anybody remembering to.
#include <algorithm>
#include <array>

#include <fmt/format.h>

#include "store/study/frame_codec.h"
#include "store/study/row_sum.h"
#include "store/study/study_file.h"

namespace store {
namespace {

/// Packed numbers, and pictures: no text is in them that a search would find.
constexpr std::array<std::string_view, 3> kNoText{"frames", "frame_values", "bytes"};

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

}  // namespace

core::Status StudyFile::forEachText(const std::function<void(const Text&)>& take) {
  for (const std::string& table : summedTables()) {
    const std::vector<std::string> columns = columnsOf(table);
    const auto read =
        forEachRow(database_, fmt::format("SELECT {} FROM {} ORDER BY id", summedColumns(table), table),
                   [&](const Statement& row) -> core::Status {
                     for (std::size_t i = 1; i < columns.size(); ++i) {
                       const int place = static_cast<int>(i);
                       if (row.isText(place)) take({table, row.integer(0), columns[i], row.text(place)});
                       if (!row.isBlob(place) || std::find(kNoText.begin(), kNoText.end(), columns[i]) != kNoText.end())
                         continue;
                       if (const auto text = unpackText(row.blob(place)))
                         take({table, row.integer(0), columns[i], *text});
                     }
                     return core::Done{};
                   });
    if (!read) return read;
  }
  return core::Done{};
}

}  // namespace store
