#include "session/user/holder.h"

#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <array>

#include <fmt/format.h>

#include "core/values/shown_text.h"
#include "session/user/person.h"

namespace session {

std::string holderText(const std::string& person) {
  return fmt::format("{}, process {} on {}", person, ::getpid(), hostName());
}

std::string holderAt(int descriptor, long place) {
  std::array<char, 200> text{};
  const ssize_t length = ::pread(descriptor, text.data(), text.size(), place);
  const std::string holder(text.data(), static_cast<std::size_t>(std::max<ssize_t>(length, 0)));
  return core::shownText(holder.substr(0, holder.find('\n')));
}

bool isStillNamed(const std::string& path, int descriptor) {
  struct stat held {};
  struct stat named {};
  return ::fstat(descriptor, &held) == 0 && ::stat(path.c_str(), &named) == 0 && held.st_ino == named.st_ino &&
         held.st_dev == named.st_dev;
}

}  // namespace session
