#include "session/user/open_mark.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <utility>

#include "core/values/shown_text.h"
#include "session/user/holder.h"

namespace session {
namespace {

constexpr int kPlaces = 64;
constexpr long kPlaceBytes = 256;

// Locks of the open file, not of the process: two windows of one process see each other too.
struct flock lockOf(long begin, long length) {
  struct flock lock {};
  lock.l_type = F_WRLCK;
  lock.l_whence = SEEK_SET;
  lock.l_start = begin;
  lock.l_len = length;
  return lock;
}

}  // namespace

OpenMark::OpenMark(const std::string& study_path, const std::string& person) : path_(study_path + ".open") {
  constexpr int kTries = 10;
  for (int i = 0; i < kTries; ++i) {
    descriptor_ = ::open(path_.c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK, 0666);
    if (descriptor_ < 0 || (take(person) && isStillNamed(path_, descriptor_))) return;
    ::close(std::exchange(descriptor_, -1));
  }
}

bool OpenMark::take(const std::string& person) {
  for (place_ = 0; place_ < kPlaces; ++place_) {
    struct flock lock = lockOf(place_ * kPlaceBytes, kPlaceBytes);
    if (::fcntl(descriptor_, F_OFD_SETLK, &lock) != 0) continue;
    std::string text(core::cutText(holderText(person), kPlaceBytes - 1));
    text.resize(kPlaceBytes, '\n');
    return ::pwrite(descriptor_, text.data(), text.size(), place_ * kPlaceBytes) == kPlaceBytes;
  }
  return false;
}

// Asked whenever something changes: only places that somebody ever took are looked at, most often none but our own.
std::vector<std::string> OpenMark::others() const {
  std::vector<std::string> others;
  struct stat file {};
  if (descriptor_ < 0 || ::fstat(descriptor_, &file) != 0) return others;
  const auto places = static_cast<int>(std::min<long>(kPlaces, file.st_size / kPlaceBytes));
  for (int place = 0; place < places; ++place) {
    struct flock lock = lockOf(place * kPlaceBytes, kPlaceBytes);
    if (place == place_ || ::fcntl(descriptor_, F_OFD_GETLK, &lock) != 0 || lock.l_type == F_UNLCK) continue;
    others.push_back(holderAt(descriptor_, place * kPlaceBytes));
  }
  return others;
}

OpenMark::~OpenMark() {
  if (descriptor_ < 0) return;
  struct flock whole = lockOf(0, 0);
  if (::fcntl(descriptor_, F_OFD_SETLK, &whole) == 0 && isStillNamed(path_, descriptor_)) ::unlink(path_.c_str());
  ::close(descriptor_);
}

}  // namespace session
