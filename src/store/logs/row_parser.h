#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "store/logs/log_shape.h"
#include "store/logs/plain_rows.h"

namespace store {

/// What some lines of a log say.
struct RowBlock {
  /// A row's first field of the run column that differs from the row before.
  struct RunBegin {
    std::size_t row = 0;
    std::string name;
  };
  struct Flaw {
    std::size_t line = 0;  ///< from 1, within the block
    std::string column;    ///< none for a row whose fields are too few or too many
    std::string what;
  };

  std::vector<Numbers> columns;  ///< the time first, then the others in their order; room for more than the rows
  std::size_t rows = 0;
  std::size_t lines = 0;
  std::vector<std::size_t> skipped;  ///< the row before which a line without data stands
  std::vector<RunBegin> begins;
  std::optional<Flaw> flaw;  ///< the first row that does not fit; the rows end before it
};

/// Reads lines by a log's shape. Of a time column of durations the numbers come out as ms, and none of them is bad.
class RowParser {
 public:
  /// `shape` outlives the parser.
  explicit RowParser(const LogShape& shape);
  /// `lines` may be read from kReadableBefore bytes before its begin. What `block` held before is gone.
  /// `skipped_rows`: how many lines with data come before the first row.
  void parse(std::string_view lines, std::size_t skipped_rows, RowBlock& block) const;
  /// Columns of numbers that are kept: the time, and where they are wanted all others but the run.
  [[nodiscard]] std::size_t numberColumns() const;

 private:
  std::size_t parsePlain(std::string_view lines, RowBlock& block) const;
  bool parseLine(std::string_view line, RowBlock& block) const;
  bool parseFields(std::string_view line, RowBlock& block) const;
  bool parseQuoted(std::string_view line, RowBlock& block) const;
  bool parseObject(std::string_view line, RowBlock& block) const;
  bool takeAll(const std::vector<std::string>& fields, RowBlock& block) const;
  bool take(std::size_t column, std::string_view field, double number, RowBlock& block) const;
  double numberAt(const char*& at, const char* end) const;
  void beginRun(std::string_view name, RowBlock& block) const;
  bool checkDurations(std::size_t from, std::size_t to, RowBlock& block) const;

  const LogShape& shape_;
  char delimiter_;
  std::vector<std::size_t> place_;  ///< of each column of the shape among the columns of numbers
};

}  // namespace store
