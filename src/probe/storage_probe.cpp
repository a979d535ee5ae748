#include "probe/storage_probe.h"

#include <fcntl.h>
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

/// A file that is removed when it goes out of scope.
class OwnFile {
 public:
  explicit OwnFile(const std::string& folder)
      : path_(folder + "/iron-lever-storage-XXXXXX"), descriptor_(::mkstemp(path_.data())) {}
  ~OwnFile() {
    if (descriptor_ < 0) return;
    ::close(descriptor_);
    ::unlink(path_.c_str());
  }
  OwnFile(const OwnFile&) = delete;
  OwnFile& operator=(const OwnFile&) = delete;
  [[nodiscard]] int descriptor() const { return descriptor_; }
  [[nodiscard]] const std::string& path() const { return path_; }

 private:
  std::string path_;
  int descriptor_;
};

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
  const Aligned block(static_cast<char*>(std::aligned_alloc(kSmall, kBlock)));
  if (auto filled = fill(file, block.get(), options.mib); !filled) return filled.error();
  const int direct = ::open(file.path().c_str(), O_RDONLY | O_DIRECT | O_CLOEXEC);
  if (direct < 0)
    return Error{ErrorKind::NotAllowed, "this file system offers no direct reads, so the page cache would be measured",
                 options.folder, "Name a folder on the drive itself"};

  StorageReadings readings;
  core::Status read = core::Done{};
  const auto take = [&](std::size_t size, std::size_t at) {
    if (read && ::pread(direct, block.get(), size, static_cast<off_t>(at)) != static_cast<ssize_t>(size))
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
  ::close(direct);
  if (!read) return read.error();
  return readings;
}

}  // namespace probe
