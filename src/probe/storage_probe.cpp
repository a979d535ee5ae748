#include "probe/storage_probe.h"

#include <fcntl.h>
#include <linux/magic.h>
#include <sys/vfs.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <memory>
#include <random>

namespace probe {
namespace {

using core::Error;
using core::ErrorKind;

constexpr std::size_t kBlock = 1U << 20;
constexpr std::size_t kSmall = 4096;
constexpr int kAccesses = 256;

struct Free {
  void operator()(void* bytes) const { std::free(bytes); }
};
using Aligned = std::unique_ptr<char, Free>;  // direct reads want memory on a page's border

/// A file without a name, so that nothing stays however this program ends. A file system that makes none gives one with
/// a name, which is taken away at once: a kill between the two leaves it there, empty.
class OwnFile {
 public:
  explicit OwnFile(const std::string& folder) : path_(folder + "/iron-lever-storage-XXXXXX") {
    descriptor_ = ::open(folder.c_str(), O_TMPFILE | O_RDWR | O_CLOEXEC, 0600);
    if (descriptor_ >= 0 || (errno != EOPNOTSUPP && errno != EISDIR && errno != EINVAL)) return;
    descriptor_ = ::mkostemp(path_.data(), O_CLOEXEC);
    if (descriptor_ >= 0) ::unlink(path_.c_str());
  }
  ~OwnFile() {
    if (descriptor_ >= 0) ::close(descriptor_);
  }
  OwnFile(const OwnFile&) = delete;
  OwnFile& operator=(const OwnFile&) = delete;
  [[nodiscard]] int descriptor() const { return descriptor_; }
  [[nodiscard]] const std::string& path() const { return path_; }
  /// From now on past the page cache; false where the file system cannot.
  [[nodiscard]] bool readDirectly() const { return ::fcntl(descriptor_, F_SETFL, O_DIRECT) == 0; }

 private:
  std::string path_;
  int descriptor_ = -1;
};

bool isInMemory(int descriptor) {
  struct statfs status {};
  return ::fstatfs(descriptor, &status) == 0 && (status.f_type == TMPFS_MAGIC || status.f_type == RAMFS_MAGIC);
}

Error failed(const std::string& path, int code) {
  if (code == ENOSPC || code == EDQUOT)
    return {ErrorKind::DiskFull, "the disk is full", path, "Use fewer --mib, or free some space"};
  return {ErrorKind::Io, std::string("the file cannot be used: ") + std::strerror(code), path,
          "Name a folder on the drive that you may write to"};
}

// Bytes that no drive can compress away.
core::Status fill(const OwnFile& file, char* block, int mib) {
  std::mt19937_64 engine(4711);
  for (std::size_t i = 0; i < kBlock; i += 8) {
    const std::uint64_t word = engine();
    std::memcpy(block + i, &word, 8);
  }
  for (int i = 0; i < mib; ++i) {
    std::memcpy(block, &i, sizeof i);  // no two blocks alike
    if (::write(file.descriptor(), block, kBlock) != static_cast<ssize_t>(kBlock)) return failed(file.path(), errno);
  }
  if (::fsync(file.descriptor()) != 0) return failed(file.path(), errno);
  return core::Done{};
}

}  // namespace

core::Result<StorageReadings> measureStorage(const StorageOptions& options) {
  if (options.mib < 8 || options.mib > 65536 || options.repeats < 1 || options.repeats > 1000)
    return Error{ErrorKind::OutOfRange, "the options do not fit", "storage",
                 "Use --mib 8 to 65536, --repeats 1 to 1000"};
  const OwnFile file(options.folder);
  if (file.descriptor() < 0) return failed(options.folder, errno);
  if (isInMemory(file.descriptor()))
    return Error{ErrorKind::NotAllowed, "this file system lies in memory: memory would be measured", options.folder,
                 "Name a folder on the drive itself"};
  const Aligned block(static_cast<char*>(std::aligned_alloc(kSmall, kBlock)));
  if (auto filled = fill(file, block.get(), options.mib); !filled) return filled.error();
  if (!file.readDirectly())
    return Error{ErrorKind::NotAllowed, "this file system offers no direct reads, so the page cache would be measured",
                 options.folder, "Name a folder on the drive itself"};

  StorageReadings readings;
  core::Status read = core::Done{};
  const auto take = [&](std::size_t size, std::size_t at) {
    if (read && ::pread(file.descriptor(), block.get(), size, static_cast<off_t>(at)) != static_cast<ssize_t>(size))
      read = failed(file.path(), errno);
  };
  std::mt19937 engine(4711);
  std::uniform_int_distribution<std::size_t> anywhere(0, static_cast<std::size_t>(options.mib) * kBlock / kSmall - 1);
  for (int i = 0; i < options.repeats && read; ++i) {
    const double seconds = secondsOf([&] {
      for (int n = 0; n < options.mib; ++n) take(kBlock, static_cast<std::size_t>(n) * kBlock);
    });
    readings.read_GBps.values.push_back(static_cast<double>(options.mib) * kBlock / 1e9 / seconds);
    const double accesses = secondsOf([&] {
      for (int n = 0; n < kAccesses; ++n) take(kSmall, anywhere(engine) * kSmall);
    });
    readings.access_us.values.push_back(accesses * 1e6 / kAccesses);
  }
  if (!read) return read.error();
  return readings;
}

}  // namespace probe
