#include "session/user/file_lock.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <filesystem>
#include <utility>

#include "session/user/holder.h"

namespace session {
namespace {

void writeHolder(int descriptor, const std::string& person) {
  const std::string holder = holderText(person) + "\n";
  // A lock that cannot say whose it is still locks.
  if (::ftruncate(descriptor, 0) == 0) (void)!::pwrite(descriptor, holder.data(), holder.size(), 0);
}

core::Error busy(const std::string& study_path, const std::string& holder) {
  return {core::ErrorKind::Busy,
          "the study is being run by another window or command" + (holder.empty() ? std::string() : ": " + holder),
          study_path, "Stop it there first"};
}

}  // namespace

core::Result<FileLock> FileLock::acquire(const std::string& study_path, const std::string& person) {
  std::error_code code;  // beside the file itself, not beside a link to it
  const std::filesystem::path whole = std::filesystem::weakly_canonical(study_path, code);
  const std::string path = (code ? study_path : whole.string()) + ".lock";
  auto file = NameLock::ofFile(study_path);
  for (;;) {
    const int making = file ? O_CREAT : 0;  // where another name of the file is held, nothing is made beside this one
    const int descriptor = ::open(path.c_str(), O_RDWR | making | O_CLOEXEC | O_NOFOLLOW, 0600);
    if (descriptor < 0 && !file) return busy(study_path, "");
    if (descriptor < 0)
      return core::Error{core::ErrorKind::Io, "the lock beside the study cannot be made", path,
                         "Check that the folder can be written to"};
    if (!file || ::flock(descriptor, LOCK_EX | LOCK_NB) != 0) {
      const std::string holder = holderAt(descriptor, 0);
      ::close(descriptor);
      return busy(study_path, holder);
    }
    if (isStillNamed(path, descriptor)) {  // else the lock is on a name that is gone
      writeHolder(descriptor, person);
      return FileLock(path, descriptor, *std::move(file));
    }
    ::close(descriptor);
  }
}

std::optional<FileLock> FileLock::whileChanging(const std::string& path) {
  constexpr int kTries = 500;
  constexpr useconds_t kPauseUs = 10'000;
  for (int i = 0; i < kTries; ++i) {
    if (auto lock = acquire(path, ""); lock) return *std::move(lock);
    if (!std::filesystem::exists(std::filesystem::path(path).parent_path())) return std::nullopt;
    ::usleep(kPauseUs);
  }
  return std::nullopt;
}

FileLock::FileLock(FileLock&& other) noexcept
    : path_(std::move(other.path_)), descriptor_(std::exchange(other.descriptor_, -1)), file_(std::move(other.file_)) {}

FileLock& FileLock::operator=(FileLock&& other) noexcept {
  std::swap(path_, other.path_);
  std::swap(descriptor_, other.descriptor_);
  std::swap(file_, other.file_);
  return *this;
}

FileLock::~FileLock() {
  if (descriptor_ < 0) return;
  ::unlink(path_.c_str());
  ::close(descriptor_);
}

}  // namespace session
