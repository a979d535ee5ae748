// Logs as files and as texts: their head, and the whole of them.
#include <filesystem>
#include <fstream>

#include "store/log_reader.h"
#include "store/log_shape.h"

namespace store {

core::Result<std::string> headOfLog(const std::string& path) {
  constexpr std::size_t kHeadBytes = 1U << 17;
  std::ifstream file(path, std::ios::binary);
  std::error_code code;
  if (!file || std::filesystem::is_directory(path, code)) return unreadableLog(path);
  std::string head(kHeadBytes, '\0');
  file.read(head.data(), kHeadBytes);
  head.resize(static_cast<std::size_t>(file.gcount()));
  if (const auto end = head.rfind('\n'); file && end != std::string::npos) head.resize(end + 1);
  return head;
}

core::Result<std::vector<ImportedRun>> importLogFile(const std::string& path, const LogShape& shape) {
  const auto log = LogBlocks::ofFile(path);
  if (!log) return log.error();
  return readRuns(*log, shape, path);
}

core::Result<std::vector<ImportedRun>> importLog(std::string_view text, const LogShape& shape,
                                                 const std::string& log_name) {
  return readRuns(LogBlocks::ofText(text), shape, log_name);
}

}  // namespace store
