#include "store/frame_log.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fstream>
#include <optional>
#include <sstream>

#include "core/number_text.h"
#include "store/log_rows.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;

std::optional<double> frameTime(std::string_view text) {
  const auto value = core::numberOf(text);
  return value && *value > 0 ? value : std::nullopt;
}

std::vector<std::string_view> splitLines(std::string_view text) {
  std::vector<std::string_view> lines;
  while (!text.empty()) {
    const auto end = text.find('\n');
    lines.push_back(text.substr(0, end));
    if (end == std::string_view::npos) break;
    text.remove_prefix(end + 1);
  }
  return lines;
}

std::string_view fieldAt(std::string_view line, std::size_t index) {
  for (; index > 0; --index) {
    const auto comma = line.find(',');
    if (comma == std::string_view::npos) return {};
    line.remove_prefix(comma + 1);
  }
  return line.substr(0, line.find(','));
}

std::optional<std::size_t> columnIndex(std::string_view header, std::string_view column) {
  for (std::size_t i = 0;; ++i) {
    if (trimmed(header.substr(0, header.find(','))) == column) return i;
    const auto comma = header.find(',');
    if (comma == std::string_view::npos) return std::nullopt;
    header.remove_prefix(comma + 1);
  }
}

std::size_t fieldCount(std::string_view row) {
  return 1 + static_cast<std::size_t>(std::count(row.begin(), row.end(), ','));
}

// As many fields as the header names, each of them written or left empty; behind them only empty ones.
bool hasFields(std::string_view row, std::size_t fields) {
  const std::size_t found = fieldCount(row);
  if (found < fields) return false;
  for (std::size_t i = fields; i < found; ++i)
    if (!trimmed(fieldAt(row, i)).empty()) return false;
  return true;
}

bool isHeader(std::string_view line) {
  const std::string_view text = trimmed(line);
  return !text.empty() && (std::isalpha(static_cast<unsigned char>(text.front())) || text.front() == '_') &&
         text != "nan" && text != "inf";
}

Error badLines(const FrameLines& parsed, std::span<const std::string_view> lines, std::size_t lines_before,
               const std::string& log_name) {
  const std::size_t first = parsed.bad_lines.front();
  std::string what = "'" + std::string(trimmed(lines[first - 1])).substr(0, 40) + "' is not a frame time in ms";
  if (parsed.bad_lines.size() > 1) what += ", nor are " + std::to_string(parsed.bad_lines.size() - 1) + " more lines";
  return {ErrorKind::Malformed, what, log_name + ", line " + std::to_string(first + lines_before),
          "A frame time is a finite number above 0 with a decimal point. The pass was rejected whole; look at the log "
          "and run it again"};
}

}  // namespace

FrameLines parseFrameLines(std::span<const std::string_view> lines) {
  FrameLines parsed;
  parsed.frame_ms.reserve(lines.size());
  for (std::size_t i = 0; i < lines.size(); ++i) {
    if (const auto value = frameTime(lines[i]))
      parsed.frame_ms.push_back(*value);
    else
      parsed.bad_lines.push_back(i + 1);
  }
  return parsed;
}

core::Result<std::vector<double>> parseFrameLog(std::string_view text, std::string_view column,
                                                const std::string& log_name) {
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  std::vector<std::string_view> lines = splitLines(text);
  std::size_t index = 0;
  std::size_t fields = 0;  // that the header names
  std::size_t lines_before = 0;
  if (!lines.empty() && isHeader(lines.front())) {
    const auto found = columnIndex(lines.front(), column);
    if (!found)
      return Error{ErrorKind::Missing,
                   "there is no column '" + std::string(column) + "' in '" +
                       std::string(trimmed(lines.front())).substr(0, 80) + "'",
                   log_name + ", line 1", "Enter the column's name in the case, as the log writes it"};
    index = *found;
    std::string_view header = trimmed(lines.front());
    while (header.ends_with(',')) header = trimmed(header.substr(0, header.size() - 1));
    fields = fieldCount(header);
    lines_before = 1;
    lines.erase(lines.begin());
  }
  for (std::size_t i = 0; lines_before == 1 && i < lines.size(); ++i) {
    // Where a row has other fields than the header names, decimals have commas or the row was cut: no field of it
    // holds.
    if (!hasFields(lines[i], fields))
      return Error{ErrorKind::Malformed,
                   "'" + std::string(trimmed(lines[i])).substr(0, 40) + "' has not the " + std::to_string(fields) +
                       (fields == 1 ? " field" : " fields") + " that the first line names",
                   log_name + ", line " + std::to_string(i + 2),
                   "Write decimals with a point, and every row whole; the pass was rejected whole"};
    lines[i] = fieldAt(lines[i], index);
  }
  FrameLines parsed = parseFrameLines(lines);
  if (!parsed.bad_lines.empty()) return badLines(parsed, lines, lines_before, log_name);
  if (parsed.frame_ms.empty())
    return Error{ErrorKind::TooFew, "the frame log is empty", log_name,
                 "Check that the workload ran long enough and wrote its log"};
  return std::move(parsed.frame_ms);
}

core::Result<std::vector<double>> readFrameLog(const std::string& path, std::string_view column, LogEnd end) {
  std::ifstream file(path, std::ios::binary);
  if (!file)
    return Error{ErrorKind::Missing, "the workload wrote no frame log", path,
                 "Check that its command takes the path from {log}"};
  std::ostringstream content;
  content << file.rdbuf();
  if (file.bad()) return Error{ErrorKind::Io, "the frame log cannot be read", path, "Check the disk"};
  std::string text = content.str();
  if (end == LogEnd::CutOff) text.erase(text.find_last_of('\n') + 1);
  return parseFrameLog(text, column, path);
}

}  // namespace store
