#pragma once

#include <cstddef>
#include <cstdint>
#include <string>

#include "core/values/result.h"

namespace store {

/// A plain file, open for reading. A pipe, a device, a socket or a folder is none: opening or reading it could wait for
/// ever, or have no end.
class RegularFile {
 public:
  /// Errors  Missing where there is none; Denied, Io; Malformed for what is no plain file
  [[nodiscard]] static core::Result<RegularFile> open(const std::string& path);
  ~RegularFile();
  RegularFile(RegularFile&& other) noexcept;
  RegularFile& operator=(RegularFile&& other) noexcept;
  RegularFile(const RegularFile&) = delete;
  RegularFile& operator=(const RegularFile&) = delete;

  [[nodiscard]] std::uintmax_t size() const { return size_; }
  /// How many bytes were read from there, fewer only at its end; negative where reading failed.
  [[nodiscard]] std::ptrdiff_t read(char* to, std::size_t bytes, std::size_t from) const;

 private:
  RegularFile(int descriptor, std::uintmax_t size) : descriptor_(descriptor), size_(size) {}
  int descriptor_;
  std::uintmax_t size_;
};

/// All that a plain file holds. Its size is looked at before anything is read.
/// Errors  those of RegularFile::open; OutOfRange for one of more than `most_bytes`
[[nodiscard]] core::Result<std::string> contentsOf(const std::string& path, std::uintmax_t most_bytes);

}  // namespace store
