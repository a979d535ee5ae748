#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/result.h"

namespace store {

/// Frame times of one pass, or the numbers of all lines that are not a frame time.
struct FrameLines {
  std::vector<double> frame_ms;
  std::vector<std::size_t> bad_lines;  ///< from 1
  [[nodiscard]] bool isRejected() const { return !bad_lines.empty() || frame_ms.empty(); }
};

/// Reads one frame time a line: decimal point, optional sign and exponent, blanks around it. Hexadecimal, a comma, an
/// empty line, a number that is not finite or not above 0 are bad. Nothing is dropped in silence.
[[nodiscard]] FrameLines parseFrameLines(std::span<const std::string_view> lines);

/// Reads a frame log: comma-separated text whose first line names the columns, or one bare number a line.
/// `column` is the column wanted; a log without header has just that one. A last line break, CRLF and a byte order mark
/// are no errors. A row with more or fewer fields than the header names is bad: "10,5" under one column is no 10.
/// Errors  TooFew for an empty log, Missing{column}, Malformed{line} for the first bad lines: the pass is rejected
/// whole.
///         Every error names `log_name` and, where it can, the line
[[nodiscard]] core::Result<std::vector<double>> parseFrameLog(std::string_view text, std::string_view column,
                                                              const std::string& log_name);

/// Is the log whole, or was its writer stopped in the middle of a line? Then a last line without its end is no frame.
enum class LogEnd { Whole, CutOff };

/// Reads the file and parses it. Errors besides: Missing or Io for the file itself.
[[nodiscard]] core::Result<std::vector<double>> readFrameLog(const std::string& path, std::string_view column,
                                                             LogEnd end = LogEnd::Whole);

}  // namespace store
