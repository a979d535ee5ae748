#include "app/model/live_trace.h"

#include <algorithm>
#include <filesystem>
#include <fstream>

#include "store/logs/frame_log.h"

namespace app {

void LiveTrace::clear() { *this = {}; }

bool LiveTrace::follow(const std::string& path, const std::string& column) {
  std::error_code code;
  const auto size = std::filesystem::file_size(path, code);
  if (code || size < read_) {  // gone, or another pass has begun it anew
    const bool had_frames = !frame_ms_.empty();
    clear();
    if (code) return had_frames;
  }
  std::ifstream file(path, std::ios::binary);
  file.seekg(static_cast<std::streamoff>(read_));
  constexpr std::uintmax_t kMostAtOnce = std::uintmax_t{1} << 24;  // the rest follows at the next look
  std::string added(std::min(size - read_, kMostAtOnce), '\0');
  file.read(added.data(), static_cast<std::streamsize>(added.size()));
  added.resize(static_cast<std::size_t>(file.gcount()));
  read_ += added.size();
  rest_ += added;
  const auto end = rest_.rfind('\n');
  if (end == std::string::npos) return false;
  const std::string lines = header_ + rest_.substr(0, end + 1);
  rest_.erase(0, end + 1);
  if (header_.empty()) {
    const std::string first = lines.substr(0, lines.find('\n') + 1);
    if (first.find_first_of("abcdefghijklmnopqrstuvwxyz") != std::string::npos) header_ = first;
  }
  // A log that cannot be read is judged when the pass is filed; the live picture just stays empty.
  const auto parsed = store::parseFrameLog(lines, column, path);
  if (!parsed) return false;
  frame_ms_.insert(frame_ms_.end(), parsed->begin(), parsed->end());
  return true;
}

}  // namespace app
