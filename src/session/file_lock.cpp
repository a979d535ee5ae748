#include "session/file_lock.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <utility>

#include <fmt/format.h>

#include "core/values/shown_text.h"

namespace session {
namespace {

// Between our open and our lock the holder may have removed the file: then the lock is on a name that is gone.
bool isStillNamed(const std::string& path, int descriptor) {
  struct stat held {};
  struct stat named {};
  return ::fstat(descriptor, &held) == 0 && ::stat(path.c_str(), &named) == 0 && held.st_ino == named.st_ino &&
         held.st_dev == named.st_dev;
}

// "M. Osei, process 4711 on dome-3", as its holder wrote it; anybody's text, so no more than a line of it.
std::string holderOf(int descriptor) {
  std::array<char, 200> text{};
  const ssize_t length = ::pread(descriptor, text.data(), text.size(), 0);
  const std::string holder(text.data(), static_cast<std::size_t>(std::max<ssize_t>(length, 0)));
  return core::shownText(holder.substr(0, holder.find('\n')));
}

void writeHolder(int descriptor, const std::string& person) {
  std::array<char, 256> host{};
  if (::gethostname(host.data(), host.size() - 1) != 0) host[0] = 0;
  const std::string holder = fmt::format("{}, process {} on {}\n", person, ::getpid(), host.data());
  // A lock that cannot say whose it is still locks.
  if (::ftruncate(descriptor, 0) == 0) (void)!::pwrite(descriptor, holder.data(), holder.size(), 0);
}

}  // namespace

core::Result<FileLock> FileLock::acquire(const std::string& study_path, const std::string& person) {
  const std::string path = study_path + ".lock";
  for (;;) {
    const int descriptor = ::open(path.c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0600);
    if (descriptor < 0)
      return core::Error{core::ErrorKind::Io, "the lock beside the study cannot be made", path,
                         "Check that the folder can be written to"};
    if (::flock(descriptor, LOCK_EX | LOCK_NB) != 0) {
      const std::string holder = holderOf(descriptor);
      ::close(descriptor);
      return core::Error{
          core::ErrorKind::Busy,
          "the study is being run by another window or command" + (holder.empty() ? std::string() : ": " + holder),
          study_path, "Stop it there first"};
    }
    if (isStillNamed(path, descriptor)) {
      writeHolder(descriptor, person);
      return FileLock(path, descriptor);
    }
    ::close(descriptor);
  }
}

FileLock::FileLock(FileLock&& other) noexcept
    : path_(std::move(other.path_)), descriptor_(std::exchange(other.descriptor_, -1)) {}

FileLock& FileLock::operator=(FileLock&& other) noexcept {
  std::swap(path_, other.path_);
  std::swap(descriptor_, other.descriptor_);
  return *this;
}

FileLock::~FileLock() {
  if (descriptor_ < 0) return;
  ::unlink(path_.c_str());
  ::close(descriptor_);
}

}  // namespace session
