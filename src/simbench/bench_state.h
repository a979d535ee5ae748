#pragma once

#include <map>
#include <string>

#include "core/values/result.h"
#include "simbench/machine.h"
#include "simbench/truth.h"

namespace simbench {

/// The state folder of a simulated machine: truth.json (the hidden truth) and state.json (everything that changes).
/// state.json is replaced whole and synced, so that a kill leaves the old state or the new one. machine/ holds the fake
/// /proc and /sys of the boot in force.
struct BenchState {
  std::string folder;
  Truth truth;
  std::map<std::string, std::string> levels;   ///< in force since the last restart
  std::map<std::string, std::string> pending;  ///< set in the firmware, in force after the next restart
  std::string boot_id;
  std::int64_t boots = 1;
  std::int64_t restarts = 0;  ///< that were asked for, also those that the truth loses
  std::int64_t runs = 0;
  double warm_minutes = 0;  ///< how long the bench has worked without cooling down
  /// How far its clock is ahead of the true one: what it skips of the time that restarts and passes would take.
  std::int64_t clock_ahead_ms = 0;

  bool has_companion = false;  ///< one is running at this moment; not kept

  /// Product of the factors of all levels in force, of this boot's accident, and of a companion.
  [[nodiscard]] Factors factors() const;
  /// What the machine shows of itself in this boot.
  [[nodiscard]] Machine machine() const;
};

/// Makes the folder from a truth file; its clock is so far ahead of the true one, or behind. Errors  NotAllowed when
/// the folder already holds a bench; those of the truth; Io
[[nodiscard]] core::Result<BenchState> initBench(const std::string& folder, const std::string& truth_path,
                                                 std::int64_t clock_ahead_ms = 0);
/// Errors  Missing when there is no bench; Malformed; Io
[[nodiscard]] core::Result<BenchState> loadBench(const std::string& folder);
/// The clock goes into the machine's folder too, where whoever works on the bench finds it. Errors  Io, DiskFull
[[nodiscard]] core::Status saveBench(const BenchState& state);

/// Sets a variable in the firmware: "memory_speed=6000". Errors  Malformed, Missing with the known names
[[nodiscard]] core::Status setLevel(BenchState& state, const std::string& assignment);
/// Writes the fake /proc and /sys of this boot. Errors  Io
[[nodiscard]] core::Status saveMachine(const BenchState& state);
/// Restarts: pending levels take effect, the boot id changes, the bench cools down a little, minutes go by. False where
/// the truth loses this restart: then nothing has happened.
bool reboot(BenchState& state);

}  // namespace simbench
