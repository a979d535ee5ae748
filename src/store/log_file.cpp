// Logs as files: their head, and the whole of them block by block.
#include <filesystem>
#include <fstream>

#include "store/log_reader.h"
#include "store/log_shape.h"

namespace store {
namespace {

using core::Error;
using core::ErrorKind;

constexpr std::size_t kHeadBytes = 1U << 17;
constexpr std::size_t kBlockBytes = 1U << 23;

Error unreadable(const std::string& path) {
  return {ErrorKind::Missing, "the log cannot be read", path, "Check its name, and that you may read it"};
}

// The next block, whole lines but at the end of the file; what is behind its last line break is kept in `rest`.
std::string_view nextLines(std::istream& file, std::string& block, std::string& rest) {
  block = std::move(rest);
  const std::size_t kept = block.size();
  block.resize(kept + kBlockBytes);
  file.read(block.data() + kept, kBlockBytes);
  block.resize(kept + static_cast<std::size_t>(file.gcount()));
  rest.clear();
  if (file) {
    const auto end = block.rfind('\n');
    rest = end == std::string::npos ? std::exchange(block, {}) : block.substr(end + 1);
    block.resize(block.size() - (end == std::string::npos ? 0 : rest.size()));
  }
  return block;
}

}  // namespace

core::Result<std::string> headOfLog(const std::string& path) {
  std::ifstream file(path, std::ios::binary);
  std::error_code code;
  if (!file || std::filesystem::is_directory(path, code)) return unreadable(path);
  std::string head(kHeadBytes, '\0');
  file.read(head.data(), kHeadBytes);
  head.resize(static_cast<std::size_t>(file.gcount()));
  if (const auto end = head.rfind('\n'); file && end != std::string::npos) head.resize(end + 1);
  return head;
}

core::Result<std::vector<ImportedRun>> importLogFile(const std::string& path, const LogShape& shape) {
  if (shape.time_column >= shape.columns.size() || (shape.run_column && *shape.run_column >= shape.columns.size()))
    return Error{ErrorKind::OutOfRange, "the shape names a column that is not there", path, "Choose another column"};
  std::ifstream file(path, std::ios::binary);
  if (!file) return unreadable(path);
  LogReader reader(shape, path);
  std::error_code code;
  const auto bytes = std::filesystem::file_size(path, code);
  std::string block;
  std::string rest;
  do {
    const std::string_view lines = nextLines(file, block, rest);
    if (auto added = reader.add(lines); !added) return added.error();
    // The first block tells how long a row is; a little more than that is room enough.
    if (!code && !lines.empty() && bytes > lines.size() && reader.rows() > 0)
      reader.reserve(static_cast<std::size_t>(1.02 * static_cast<double>(bytes) / static_cast<double>(lines.size()) *
                                              static_cast<double>(reader.rows())));
    code = std::make_error_code(std::errc::operation_canceled);  // once
  } while (file);
  return reader.finish();
}

}  // namespace store
