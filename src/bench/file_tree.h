#pragma once

#include <string>
#include <vector>

#include "core/values/result.h"

namespace bench {

/// Files of a machine: this one, or a folder that stands for one. Below a folder links are followed without ever
/// leaving it, also links that a tool without links turned into small files holding their target ("../../devices/...").
/// Errors of all functions: Missing, Denied, Busy (it is there but cannot be read now), each with the path and the
/// system's own word. One trailing newline is left to the caller.
class FileTree {
 public:
  /// `root` is put before every path: "" for this machine.
  explicit FileTree(std::string root) : root_(std::move(root)) {}

  /// The bytes of a file. What the kernel makes up on reading has no size, so it is read until it ends, 4 MiB at most.
  [[nodiscard]] core::Result<std::string> read(const std::string& path) const;
  /// Errors besides: OutOfRange for more than 65,536 names
  [[nodiscard]] core::Result<std::vector<std::string>> list(const std::string& path) const;
  [[nodiscard]] core::Result<std::string> realPath(const std::string& path) const;
  /// Writes a text into a file that is there, in one go, as the kernel's attribute files want it.
  /// Errors besides: OutOfRange when the kernel refuses the text
  core::Status write(const std::string& path, const std::string& text) const;

 private:
  [[nodiscard]] core::Result<std::string> resolved(const std::string& path) const;
  std::string root_;
};

/// An error for an errno, by the meaning that the kernel gives it in its attribute files.
[[nodiscard]] core::Error errorOfErrno(int code, const std::string& path);

}  // namespace bench
