#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "core/result.h"
#include "store/log_shape.h"

namespace store {

/// Reads the rows of a log by its shape, block by block, on two threads: large logs need little more memory than their
/// numbers.
class LogReader {
 public:
  /// `shape` outlives the reader.
  LogReader(const LogShape& shape, std::string log_name);
  /// Room for so many rows, a guess.
  void reserve(std::size_t rows);
  /// Whole lines of the log, in order; the last block may end without a line break.
  /// Errors  Malformed{line, column}
  core::Status add(std::string_view lines);
  /// The runs, once all lines are in. Errors  Malformed{line, column}; TooFew for a log without a frame
  [[nodiscard]] core::Result<std::vector<ImportedRun>> finish();
  /// Rows so far.
  [[nodiscard]] std::size_t rows() const { return times_.size(); }

 private:
  struct Part;
  /// A row's first field of the run column that differs from the row before.
  struct RunBegin {
    std::size_t row = 0;
    std::string name;
  };
  void parse(Part& part);
  const char* parseLine(Part& part, const char* begin, const char* end, std::size_t row);
  core::Status addJson(std::string_view lines);
  core::Status addFields(const std::vector<std::string>& fields, std::size_t line);
  [[nodiscard]] core::Error problem(std::size_t line, const std::string& column, const std::string& what) const;
  [[nodiscard]] std::size_t lineOf(std::size_t row) const;
  core::Status findRuns();
  core::Status toFrames(std::size_t from, std::size_t to);

  const LogShape& shape_;
  std::string log_name_;
  std::vector<std::size_t> other_columns_;
  std::vector<double> times_;
  std::vector<std::vector<double>> others_;
  std::vector<RunBegin> begins_;
  std::vector<std::pair<std::size_t, std::size_t>> skipped_;  ///< at a row, so many lines without data came before it
  std::size_t lines_ = 0;
};

}  // namespace store
