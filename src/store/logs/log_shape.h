#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/values/result.h"
#include "store/logs/numbers.h"

namespace store {

/// What the numbers of a log's time column are.
enum class TimeMeaning {
  Duration,  ///< of each frame
  TimeStamp  ///< at which each frame began: a frame lasts until the next one
};

/// Which column tells the time of the frames, and how: what a person may have to correct, and a bench remembers.
struct TimeReading {
  std::size_t column = 0;
  TimeMeaning meaning = TimeMeaning::Duration;
  double ms_per_unit = 1;

  bool operator==(const TimeReading&) const = default;
};

/// How a text of frames is laid out: found out from the text itself, and corrected by a person where it was found
/// wrong.
struct LogShape {
  char delimiter = ',';            ///< between fields; ' ' stands for any run of blanks; 0: one number a line
  bool has_decimal_comma = false;  ///< then a point parts thousands
  bool is_json_lines = false;      ///< one JSON object a line; its keys are the columns
  bool is_json_array = false;      ///< the objects are elements of one array, read as if each had a line
  std::size_t lines_before = 0;    ///< lines with facts before the header
  bool has_header = false;
  std::vector<std::string> columns;  ///< their names; "column 1" where the log names none
  std::vector<bool> is_text;         ///< of each column: it holds texts, so that no field of it must be a number
  TimeReading time;
  bool is_unit_sure = true;  ///< false: a guess from the size of the numbers, which a person has to confirm
  std::optional<std::size_t> run_column;  ///< a column that tells several runs in one file apart
  bool keeps_others = true;               ///< whether the other columns are wanted besides the time

  bool operator==(const LogShape&) const = default;
};

/// No frame lasts longer: more is a damaged number, or a clock that was set.
constexpr double kLongestFrameMs = 60'000;

/// Finds out the shape of a delimited text, of JSON lines, of an array of JSON objects or of one number a line. Byte
/// order mark, CRLF, quoted fields, comment lines (#, ; or //), empty lines, a few lines of facts before the header and
/// empty fields at the end of rows are no obstacle. Of the numeric columns a steady positive one is a duration, an
/// increasing one is a time stamp; the unit is read from the column's name, else from the size of its numbers.
/// Errors  TooFew for a text without rows; Malformed for binary data, or where no column can be a time; Ambiguous where
///         commas may part fields or decimals
[[nodiscard]] core::Result<LogShape> detectShape(std::string_view text, const std::string& log_name);

/// The shape of a log whose writer we know: `column` holds how long each frame took, in ms. A log without a header has
/// just that column. Errors  those of detectShape; Missing for the column
[[nodiscard]] core::Result<LogShape> shapeOfColumn(std::string_view text, std::string_view column,
                                                   const std::string& log_name);

/// How a column that a person chose tells the time, by its name and its first numbers. `text`: the log's first lines
[[nodiscard]] TimeReading timeReadingOf(std::string_view text, const LogShape& shape, std::size_t column);

/// Do a log's first numbers, read so, yield frames as most are: half a millisecond to a fifth of a second?
[[nodiscard]] bool isLikelyUnit(std::string_view text, const LogShape& shape);

/// One run of a log, whole.
struct ImportedRun {
  std::string name;  ///< what the run column says; else "run 1"
  Numbers frame_ms;
  std::vector<Numbers> others;  ///< the numeric columns besides time and run, in their order; NaN for gaps
};

/// Reads a log by its shape. Rows of one name in the run column are one run, however they are mixed; without such a
/// column a new run begins where a time stamp falls back.
/// Errors  Malformed{line, column} for the first row that does not fit, a frame longer than kLongestFrameMs, a last
/// line
///         that is cut off and a closing row with the sum or the mean: nothing is imported by halves
[[nodiscard]] core::Result<std::vector<ImportedRun>> importLog(std::string_view text, const LogShape& shape,
                                                               const std::string& log_name);

/// A log's first lines, whole ones, enough to find out its shape. Errors  Missing, Io for the file
[[nodiscard]] core::Result<std::string> headOfLog(const std::string& path);
/// Reads a file by its shape, block by block: it needs little more memory than the numbers do. Errors as importLog,
/// headOfLog
[[nodiscard]] core::Result<std::vector<ImportedRun>> importLogFile(const std::string& path, const LogShape& shape);

}  // namespace store
