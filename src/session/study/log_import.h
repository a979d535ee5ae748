#pragma once

#include <optional>
#include <string>
#include <vector>

#include "session/study/outside_passes.h"
#include "store/benches/bench_register.h"
#include "store/logs/log_shape.h"

namespace session {

/// A log from elsewhere, as it was read.
struct LogReading {
  std::string path;
  std::string head;  ///< its first bytes, for showing
  store::LogShape shape;
  std::vector<store::ImportedRun> runs;
  bool is_remembered = false;  ///< read as a person confirmed it for such a log before
  bool needs_unit = false;     ///< its unit is a guess that nobody has confirmed: nothing of it is filed yet

  /// "durations in ms in 'frame_ms'"
  [[nodiscard]] std::string sentence() const;
  /// The column that tells the time.
  [[nodiscard]] std::string column() const;
};

/// The unit that a person names: ms, s, us or ns, as milliseconds. Errors  OutOfRange for another
[[nodiscard]] core::Result<double> unitNamed(const std::string& unit);

/// That nobody has said the unit of a log's time; it names the guess.
[[nodiscard]] core::Error unitNotSaid(const store::LogShape& shape, const std::string& path);

/// How a log is to be read: as one with the same columns was read before on this bench, else as its first lines show.
/// Its runs are not read yet. Errors  those of store::headOfLog and store::detectShape
[[nodiscard]] core::Result<LogReading> recogniseLog(const std::string& path, const store::BenchRegister& benches,
                                                    const std::string& bench);
/// Reads its runs with the time told as a person has confirmed or corrected it; without runs where that cannot be.
/// Errors  those of store::importLogFile
[[nodiscard]] core::Status readRuns(LogReading& reading, const store::TimeReading& time);
/// Both, for a log that nobody looks at in between. `ms_per_unit`: of its time, where a person said so.
/// Errors besides: Ambiguous where nobody did and the log does not say it clearly
[[nodiscard]] core::Result<LogReading> readLog(const std::string& path, const store::BenchRegister& benches,
                                               const std::string& bench,
                                               std::optional<double> ms_per_unit = std::nullopt);

/// One run of it, ready to be filed: other columns become samples, and the origin says how it was read.
[[nodiscard]] OutsideFrames framesOf(const LogReading& reading, std::size_t run);

}  // namespace session
