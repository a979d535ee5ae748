#include "store/files/regular_file.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <utility>

#include <fmt/format.h>

namespace store {

using core::Error;
using core::ErrorKind;

core::Result<RegularFile> RegularFile::open(const std::string& path) {
  const int descriptor = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY);
  if (descriptor < 0) {
    if (errno == ENOENT || errno == ENOTDIR)
      return Error{ErrorKind::Missing, "there is no such file", path, "Check its name and folder"};
    if (errno == ENXIO)  // a socket, or a device that is not there
      return Error{ErrorKind::Malformed, "this is not a regular file", path, "Name a file"};
    return Error{errno == EACCES ? ErrorKind::Denied : ErrorKind::Io, "the file cannot be read", path,
                 "Check that you may read it"};
  }
  struct stat status {};
  const bool is_known = ::fstat(descriptor, &status) == 0;
  RegularFile file(descriptor, is_known ? static_cast<std::uintmax_t>(status.st_size) : 0);
  if (!is_known || !S_ISREG(status.st_mode))
    return Error{ErrorKind::Malformed, "this is not a regular file", path, "Name a file"};
  return file;
}

RegularFile::~RegularFile() {
  if (descriptor_ >= 0) ::close(descriptor_);
}
RegularFile::RegularFile(RegularFile&& other) noexcept
    : descriptor_(std::exchange(other.descriptor_, -1)), size_(other.size_) {}
RegularFile& RegularFile::operator=(RegularFile&& other) noexcept {
  std::swap(descriptor_, other.descriptor_);
  std::swap(size_, other.size_);
  return *this;
}

std::ptrdiff_t RegularFile::read(char* to, std::size_t bytes, std::size_t from) const {
  std::size_t got = 0;
  while (got < bytes) {
    const ssize_t part = ::pread(descriptor_, to + got, bytes - got, static_cast<off_t>(from + got));
    if (part < 0 && errno == EINTR) continue;
    if (part < 0) return -1;
    if (part == 0) break;
    got += static_cast<std::size_t>(part);
  }
  return static_cast<std::ptrdiff_t>(got);
}

core::Result<std::string> contentsOf(const std::string& path, std::uintmax_t most_bytes) {
  const auto file = RegularFile::open(path);
  if (!file) return file.error();
  if (file->size() > most_bytes)
    return Error{ErrorKind::OutOfRange, fmt::format("the file is larger than {} MiB", most_bytes >> 20), path,
                 "Name the one that was meant"};
  std::string text(static_cast<std::size_t>(file->size()), '\0');
  const std::ptrdiff_t got = file->read(text.data(), text.size(), 0);
  if (got < 0) return Error{ErrorKind::Io, "the file could not be read whole", path, "Try again"};
  text.resize(static_cast<std::size_t>(got));
  return text;
}

}  // namespace store
