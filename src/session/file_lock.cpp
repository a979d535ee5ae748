#include "session/file_lock.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <utility>

namespace session {
namespace {

// Between our open and our lock the holder may have removed the file: then the lock is on a name that is gone.
bool isStillNamed(const std::string& path, int descriptor) {
  struct stat held {};
  struct stat named {};
  return ::fstat(descriptor, &held) == 0 && ::stat(path.c_str(), &named) == 0 && held.st_ino == named.st_ino &&
         held.st_dev == named.st_dev;
}

}  // namespace

core::Result<FileLock> FileLock::acquire(const std::string& study_path) {
  const std::string path = study_path + ".lock";
  for (;;) {
    const int descriptor = ::open(path.c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0600);
    if (descriptor < 0)
      return core::Error{core::ErrorKind::Io, "the lock beside the study cannot be made", path,
                         "Check that the folder can be written to"};
    if (::flock(descriptor, LOCK_EX | LOCK_NB) != 0) {
      ::close(descriptor);
      return core::Error{core::ErrorKind::Busy, "the study is being run by another window or command", study_path,
                         "Stop it there first"};
    }
    if (isStillNamed(path, descriptor)) return FileLock(path, descriptor);
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
