#pragma once

#include <functional>
#include <string>
#include <string_view>
#include <vector>

#include "core/values/result.h"

namespace store {

/// Of a log that cannot be opened, or is no file.
[[nodiscard]] core::Error unreadableLog(const std::string& path);

/// A log as blocks of whole lines: several threads can take one each, and nobody holds the whole of it.
class LogBlocks {
 public:
  /// The text outlives the blocks.
  [[nodiscard]] static LogBlocks ofText(std::string_view text);
  /// Errors  Missing for a file that cannot be opened; Malformed for what is no plain file: a pipe, a device, a folder
  [[nodiscard]] static core::Result<LogBlocks> ofFile(const std::string& path);

  [[nodiscard]] std::size_t count() const;
  [[nodiscard]] std::size_t bytes() const { return bytes_; }
  /// The lines that begin in a block, without a byte order mark; they stay in `buffer`, which may be read from a little
  /// before them. Errors  Io
  [[nodiscard]] core::Result<std::string_view> lines(std::size_t block, std::vector<char>& buffer) const;
  /// What stands behind the last line end: a line that may be cut off. Errors  Io; Malformed for one without end
  [[nodiscard]] core::Result<std::string> unendedLine() const;
  /// Leaves such a line away. Errors  as above
  [[nodiscard]] core::Status endAtLastLine();

 private:
  /// Copies up to so many bytes from an offset on and says how many; fewer only at the end, below 0 for an error.
  using Read = std::function<std::ptrdiff_t(char* to, std::size_t bytes, std::size_t from)>;
  LogBlocks(std::string name, std::size_t bytes, Read read);

  std::string name_;
  std::size_t bytes_;
  Read read_;
};

}  // namespace store
