#include "session/user/name_lock.h"

#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <unistd.h>

#include <QCryptographicHash>
#include <cerrno>
#include <cstddef>
#include <cstring>
#include <utility>

#include <fmt/format.h>

namespace session {

// A name among the kernel's sockets that no file stands for: two cannot have it, and it goes with its owner.
std::optional<NameLock> NameLock::acquire(const std::string& name) {
  const QByteArray digest =
      QCryptographicHash::hash(QByteArray::fromStdString(name), QCryptographicHash::Sha256).toHex();
  const std::string shown = "iron-lever-" + digest.toStdString();
  NameLock lock(::socket(AF_UNIX, SOCK_DGRAM | SOCK_CLOEXEC, 0));
  sockaddr_un address{};
  address.sun_family = AF_UNIX;
  std::memcpy(address.sun_path + 1, shown.data(), shown.size());  // behind a zero: no file
  const auto size = static_cast<socklen_t>(offsetof(sockaddr_un, sun_path) + 1 + shown.size());
  // Where no socket may be had nothing can be told, and nothing is refused.
  const bool is_bound = ::bind(lock.descriptor_, reinterpret_cast<const sockaddr*>(&address), size) == 0;
  if (!is_bound && errno == EADDRINUSE) return std::nullopt;
  return lock;
}

std::optional<NameLock> NameLock::ofFile(const std::string& path) {
  struct stat status {};
  if (::stat(path.c_str(), &status) != 0) return NameLock(-1);
  return acquire(fmt::format("file {} {}", status.st_dev, status.st_ino));
}

NameLock::NameLock(NameLock&& other) noexcept : descriptor_(std::exchange(other.descriptor_, -1)) {}
NameLock& NameLock::operator=(NameLock&& other) noexcept {
  std::swap(descriptor_, other.descriptor_);
  return *this;
}
NameLock::~NameLock() {
  if (descriptor_ >= 0) ::close(descriptor_);
}

}  // namespace session
