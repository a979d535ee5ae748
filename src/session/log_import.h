#pragma once

#include <string>
#include <vector>

#include "session/session.h"
#include "store/bench_register.h"
#include "store/log_shape.h"

namespace session {

/// A log from elsewhere, as it was read.
struct LogReading {
  std::string path;
  std::string head;  ///< its first bytes, for showing
  store::LogShape shape;
  std::vector<store::ImportedRun> runs;
  bool is_remembered = false;  ///< read as a person confirmed it for such a log before
};

/// Reads a log as one with the same columns was read before on this bench, else as its shape shows.
/// Errors  those of store::headOfLog, store::detectShape and store::importLogFile
[[nodiscard]] core::Result<LogReading> readLog(const std::string& path, const store::BenchRegister& benches,
                                               const std::string& bench);
/// The same log by a shape that a person has corrected. Errors of store::importLogFile
[[nodiscard]] core::Result<LogReading> readAgain(LogReading reading, const store::LogShape& shape);

/// One run of it, ready to be filed: other columns become samples, and the origin says how it was read.
[[nodiscard]] Session::OutsideFrames framesOf(const LogReading& reading, std::size_t run);

}  // namespace session
