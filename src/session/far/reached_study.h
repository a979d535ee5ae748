#pragma once

#include <sys/types.h>

#include <optional>
#include <string>

#include "core/values/result.h"
#include "session/user/user_files.h"

namespace session {

/// What a sheet that runs here for somebody at another desk was told.
struct ReachedOrder {
  bool is_approved = false;  ///< the person has read what the study does here
  std::string digest = {};   ///< and it is that; empty: whatever it is
  bool is_resumed = false;   ///< after a restart, with nobody there
  bool repeats_failed = false;
  std::string person = {};  ///< who sits at the desk, for the record

  bool operator==(const ReachedOrder&) const = default;
};

/// A study that was brought to this bench, in a folder of this user's: the study, what its sheet was told to do, and
/// what it said. Whether its sheet runs is known by a lock that ends with the process.
class ReachedStudy {
 public:
  /// Errors  Malformed for what is no identity of a study
  [[nodiscard]] static core::Result<ReachedStudy> of(const UserFiles& files, const std::string& identity);

  [[nodiscard]] const std::string& folder() const { return folder_; }
  [[nodiscard]] std::string study() const { return folder_ + "/study.ironlever"; }
  /// One JSON object a line, see docs/command-line.md (`run --progress=json`).
  [[nodiscard]] std::string log() const { return folder_ + "/said.jsonl"; }
  [[nodiscard]] bool isThere() const;

  /// The process that runs its sheet; nothing where none does.
  [[nodiscard]] std::optional<pid_t> runner() const;
  /// While the descriptor is open, this process is that. Errors  Busy; Io
  [[nodiscard]] core::Result<int> becomeRunner() const;

  core::Status give(const ReachedOrder& order) const;
  /// Errors  Missing, Malformed
  [[nodiscard]] core::Result<ReachedOrder> order() const;

 private:
  explicit ReachedStudy(std::string folder) : folder_(std::move(folder)) {}
  [[nodiscard]] std::string lockPath() const { return folder_ + "/running.lock"; }
  [[nodiscard]] std::string orderPath() const { return folder_ + "/order.json"; }
  std::string folder_;
};

}  // namespace session
