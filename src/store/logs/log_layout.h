#pragma once

#include <string>
#include <vector>

#include "core/values/result.h"
#include "store/logs/log_rows.h"
#include "store/logs/log_shape.h"

namespace store {

/// The first rows of a log as texts, each with its line.
struct LogRows {
  std::vector<std::vector<std::string>> fields;
  std::vector<std::size_t> numbers;
};

/// How the lines of a log are parted into fields, and where its header is: the shape without its time. `known_column`:
/// a name that the header is known to have.
/// Shapes  lines: at least one. Errors  Malformed for JSON that is cut; Ambiguous where commas may part fields or
///         decimals
[[nodiscard]] core::Result<LogShape> layoutOf(const std::vector<LogLine>& lines, const std::string& log_name,
                                              std::string_view known_column = {});

/// The rows behind the header. Errors  Malformed for a line of JSON that is no object
[[nodiscard]] core::Result<LogRows> rowsOf(const std::vector<LogLine>& lines, const LogShape& shape,
                                           const std::string& log_name);

}  // namespace store
