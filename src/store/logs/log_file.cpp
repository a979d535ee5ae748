// Logs as files and as texts: their head, and the whole of them.
#include "store/logs/log_reader.h"
#include "store/logs/log_rows.h"
#include "store/logs/log_shape.h"

namespace store {

namespace {

// An array is one piece: it is read whole.
constexpr std::size_t kMostArrayBytes = std::size_t{1} << 28;

core::Result<std::string> arrayAsLines(const LogBlocks& log, const std::string& path) {
  if (log.bytes() > kMostArrayBytes)
    return core::Error{core::ErrorKind::OutOfRange, "an array of JSON is read up to 256 MiB", path,
                       "Export an object a line, or delimited text"};
  std::string text;
  std::vector<char> buffer;
  for (std::size_t block = 0; block < log.count(); ++block) {
    const auto lines = log.lines(block, buffer);
    if (!lines) return lines.error();
    text += *lines;
  }
  auto lines = objectsAsLines(text, true);
  if (lines) return *std::move(lines);
  return core::Error{core::ErrorKind::Malformed, "the JSON array does not end, or holds more than objects", path,
                     "Look whether it is cut off; nothing was imported"};
}

}  // namespace

core::Result<std::string> headOf(const LogBlocks& log) {
  constexpr std::size_t kHeadBytes = 1U << 17;
  std::vector<char> buffer;
  if (log.count() == 0) return std::string();
  const auto lines = log.lines(0, buffer);
  if (!lines) return lines.error();
  std::string head(lines->substr(0, kHeadBytes));
  if (head.size() == lines->size()) return head;
  if (const auto end = head.rfind('\n'); end != std::string::npos) head.resize(end + 1);
  return head;
}

core::Result<std::string> headOfLog(const std::string& path) {
  const auto log = LogBlocks::ofFile(path);
  if (!log) return log.error();
  return headOf(*log);
}

core::Result<std::vector<ImportedRun>> importRuns(const LogBlocks& log, const LogShape& shape,
                                                  const std::string& log_name) {
  if (!shape.is_json_array) return readRuns(log, shape, log_name);
  const auto lines = arrayAsLines(log, log_name);
  if (!lines) return lines.error();
  return readRuns(LogBlocks::ofText(*lines), shape, log_name);
}

core::Result<std::vector<ImportedRun>> importLogFile(const std::string& path, const LogShape& shape) {
  const auto log = LogBlocks::ofFile(path);
  if (!log) return log.error();
  return importRuns(*log, shape, path);
}

core::Result<std::vector<ImportedRun>> importLog(std::string_view text, const LogShape& shape,
                                                 const std::string& log_name) {
  return importRuns(LogBlocks::ofText(text), shape, log_name);
}

}  // namespace store
