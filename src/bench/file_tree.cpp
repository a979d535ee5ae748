#include "bench/file_tree.h"

#include <dirent.h>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <climits>
#include <cstdlib>
#include <cstring>
#include <memory>
#include <optional>

namespace bench {
namespace {

using core::Error;
using core::ErrorKind;

constexpr std::size_t kMostBytes = 4U << 20;
constexpr std::size_t kMostNames = 1U << 16;
constexpr int kMostLinks = 40;

std::vector<std::string> partsOf(const std::string& path) {
  std::vector<std::string> parts;
  std::size_t begin = 0;
  while (begin < path.size()) {
    const std::size_t end = std::min(path.find('/', begin), path.size());
    if (end > begin) parts.push_back(path.substr(begin, end - begin));
    begin = end + 1;
  }
  return parts;
}

core::Result<std::string> readWhole(const std::string& full, const std::string& path) {
  const int descriptor = ::open(full.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK);
  if (descriptor < 0) return errorOfErrno(errno, path);
  std::string bytes;
  char block[4096];
  for (;;) {
    const ssize_t got = ::read(descriptor, block, sizeof block);
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) {
      const int code = errno;
      ::close(descriptor);
      return errorOfErrno(code, path);
    }
    if (got == 0 || bytes.size() > kMostBytes) break;
    bytes.append(block, static_cast<std::size_t>(got));
  }
  ::close(descriptor);
  return bytes;
}

Error errorOfWrite(int code, const std::string& path, const std::string& text) {
  const std::string word = std::strerror(code);
  switch (code) {
    case EACCES:
    case EPERM:
    case EROFS: return {ErrorKind::Denied, "writing it needs root (" + word + ")", path, "Set it as root"};
    case EINVAL:
    case ERANGE:
      return {ErrorKind::OutOfRange, "the kernel refuses '" + text + "' (" + word + ")", path,
              "Use a value that this machine offers"};
    case ENOENT: return {ErrorKind::Missing, "this machine does not offer it (" + word + ")", path, "Set it otherwise"};
    default: return {ErrorKind::Busy, "it cannot be written now (" + word + ")", path, "Close what uses it"};
  }
}

// The target of a link, also of one that was turned into a small file.
std::optional<std::string> linkTarget(const std::string& full) {
  struct stat info {};
  if (::lstat(full.c_str(), &info) != 0) return std::nullopt;
  if (S_ISLNK(info.st_mode)) {
    char target[PATH_MAX];
    const ssize_t length = ::readlink(full.c_str(), target, sizeof target);
    return length < 0 ? std::nullopt : std::optional(std::string(target, static_cast<std::size_t>(length)));
  }
  if (!S_ISREG(info.st_mode) || info.st_size > PATH_MAX || info.st_size < 3) return std::nullopt;
  auto text = readWhole(full, full);
  if (!text || !text->starts_with("../") || text->find_first_of("\n\0", 0, 2) != std::string::npos) return std::nullopt;
  return *text;
}

}  // namespace

Error errorOfErrno(int code, const std::string& path) {
  const std::string word = std::strerror(code);
  switch (code) {
    case ENOENT:
    case ENODEV:
    case ENXIO:
    case ENOTDIR:
    case EOPNOTSUPP:
      return {ErrorKind::Missing, "this machine does not offer it (" + word + ")", path,
              "A driver or a firmware setting may bring it"};
    case EACCES:
    case EPERM:
      return {ErrorKind::Denied, "reading it needs more rights (" + word + ")", path,
              "Capture once with iron-lever-root-facts, as root"};
    default:
      return {ErrorKind::Busy, "it is there but cannot be read now (" + word + ")", path,
              "Read it again, under load if it is a device's"};
  }
}

// Below a folder the path is walked by hand, so that no link leads out of it.
core::Result<std::string> FileTree::resolved(const std::string& path) const {
  std::vector<std::string> ahead = partsOf(path);
  std::reverse(ahead.begin(), ahead.end());
  std::vector<std::string> walked;
  const auto walkedPath = [&] {
    std::string text;
    for (const std::string& part : walked) text += "/" + part;
    return text;
  };
  int links = 0;
  while (!ahead.empty()) {
    const std::string part = ahead.back();
    ahead.pop_back();
    if (part == ".") continue;
    if (part == "..") {
      if (!walked.empty()) walked.pop_back();
      continue;
    }
    walked.push_back(part);
    const auto target = linkTarget(root_ + walkedPath());
    if (!target) continue;
    if (++links > kMostLinks) return errorOfErrno(ELOOP, path);
    walked.pop_back();
    if (target->starts_with('/')) walked.clear();
    std::vector<std::string> parts = partsOf(*target);
    ahead.insert(ahead.end(), parts.rbegin(), parts.rend());
  }
  return walkedPath();
}

core::Result<std::string> FileTree::realPath(const std::string& path) const {
  if (root_.empty()) {
    const std::unique_ptr<char, decltype(&std::free)> real(::realpath(path.c_str(), nullptr), &std::free);
    return real ? core::Result<std::string>(std::string(real.get())) : errorOfErrno(errno, path);
  }
  auto real = resolved(path);
  if (real && ::access((root_ + *real).c_str(), F_OK) != 0) return errorOfErrno(errno, path);
  return real;
}

core::Result<std::string> FileTree::read(const std::string& path) const {
  if (root_.empty()) return readWhole(path, path);
  const auto real = resolved(path);
  return real ? readWhole(root_ + *real, path) : real.error();
}

core::Status FileTree::write(const std::string& path, const std::string& text) const {
  const auto real = root_.empty() ? core::Result<std::string>(path) : resolved(path);
  if (!real) return real.error();
  const int descriptor = ::open((root_ + *real).c_str(), O_WRONLY | O_TRUNC | O_CLOEXEC);
  if (descriptor < 0) return errorOfWrite(errno, path, text);
  const ssize_t put = ::write(descriptor, text.data(), text.size());
  const int code = put < 0 ? errno : ENOSPC;  // half a value is as good as none
  const bool is_whole = put == static_cast<ssize_t>(text.size());
  if (::close(descriptor) == 0 && is_whole) return core::Done{};
  return errorOfWrite(code, path, text);
}

core::Result<std::vector<std::string>> FileTree::list(const std::string& path) const {
  const auto real = root_.empty() ? core::Result<std::string>(path) : resolved(path);
  if (!real) return real.error();
  const std::unique_ptr<DIR, int (*)(DIR*)> folder(::opendir((root_ + *real).c_str()), &::closedir);
  if (!folder) return errorOfErrno(errno, path);
  std::vector<std::string> names;
  while (const dirent* entry = ::readdir(folder.get())) {
    if (names.size() >= kMostNames)
      return Error{ErrorKind::OutOfRange, "this folder holds more names than any machine's", path,
                   "Name a folder that holds what one machine's proc and sys say"};
    if (std::strcmp(entry->d_name, ".") != 0 && std::strcmp(entry->d_name, "..") != 0)
      names.emplace_back(entry->d_name);
  }
  std::sort(names.begin(), names.end());
  return names;
}

}  // namespace bench
