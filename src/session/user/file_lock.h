#pragma once

#include <optional>
#include <string>

#include "core/values/result.h"
#include "session/user/name_lock.h"

namespace session {

/// Says that a session is running a study, so that no second one runs it too. Held by the kernel: it ends with the
/// process, however that ends. It belongs to the file, whatever name or link it is opened by. The lock file lies beside
/// the study, says who holds it, and is removed when it is released.
class FileLock {
 public:
  /// Errors  Busy when another session holds it, with who that is; Io when the file cannot be made
  [[nodiscard]] static core::Result<FileLock> acquire(const std::string& study_path, const std::string& person);

  /// The same for a file of this user's that several programs change: waits for whoever has it, some moments at most.
  /// Nothing where it cannot be had.
  [[nodiscard]] static std::optional<FileLock> whileChanging(const std::string& path);

  FileLock(FileLock&& other) noexcept;
  FileLock& operator=(FileLock&& other) noexcept;
  FileLock(const FileLock&) = delete;
  FileLock& operator=(const FileLock&) = delete;
  ~FileLock();

 private:
  FileLock(std::string path, int descriptor, NameLock file)
      : path_(std::move(path)), descriptor_(descriptor), file_(std::move(file)) {}
  std::string path_;
  int descriptor_ = -1;
  NameLock file_;
};

}  // namespace session
