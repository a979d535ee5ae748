#pragma once

#include <string>

#include "core/values/result.h"
#include "probe/measurement.h"

namespace probe {

struct StorageOptions {
  std::string folder = ".";  ///< on the drive in question; a file is made there and removed
  int mib = 256;
  int repeats = 5;
};

struct StorageReadings {
  Measurements read_GBps;  ///< blocks of 1 MiB one after the other, past the page cache
  Measurements access_us;  ///< one block of 4 KiB anywhere in the file, one at a time
};

/// Reads a file of our own, directly from the drive. It has no name: nothing stays, also when the program is killed.
/// Errors  OutOfRange for options; Io, DiskFull; NotAllowed where the file system offers no
/// direct reads, or lies in memory
[[nodiscard]] core::Result<StorageReadings> measureStorage(const StorageOptions& options);

}  // namespace probe
