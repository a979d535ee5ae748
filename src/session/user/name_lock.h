#pragma once

#include <optional>
#include <string>

namespace session {

/// Something that one process of this machine may have at a time, by a name of any length. Held by the kernel: it ends
/// with the process, however that ends, and leaves nothing on the disk.
class NameLock {
 public:
  /// Nothing where somebody has it.
  [[nodiscard]] static std::optional<NameLock> acquire(const std::string& name);
  /// That of a file, whatever name it is opened by. A file that is not there cannot be had twice: it is always given.
  [[nodiscard]] static std::optional<NameLock> ofFile(const std::string& path);

  NameLock(NameLock&& other) noexcept;
  NameLock& operator=(NameLock&& other) noexcept;
  NameLock(const NameLock&) = delete;
  NameLock& operator=(const NameLock&) = delete;
  ~NameLock();

 private:
  explicit NameLock(int descriptor) : descriptor_(descriptor) {}
  int descriptor_ = -1;
};

}  // namespace session
