#pragma once

#include <functional>
#include <string>
#include <vector>

#include "bench/bench_connection.h"
#include "core/study/study.h"
#include "session/user/user_files.h"

namespace session {

/// Writes settings of a running system and puts them back. What stood there is on the disk before anything is written,
/// so that it is put back at the next start also when the program dies. A JSON line for each setting: boot id, the
/// folder that stands for the bench (empty: this machine), the study, the file, what stood there.
class SettingJournal {
 public:
  explicit SettingJournal(std::string path) : path_(std::move(path)) {}

  struct Entry {
    std::string boot_id;
    std::string root;
    std::string study;
    std::string path;
    std::string before;
    bool operator==(const Entry&) const = default;
  };

  /// Writes each setting into every file that its path fits, and reads it back. One that stands there already is left
  /// alone: a person may have set it. What was written before an error stays in the journal.
  /// Errors  Missing: nothing fits the path; Denied: it needs root; OutOfRange: the kernel refuses it, or it reads back
  /// otherwise; Io: the journal cannot be kept, then nothing was written
  core::Status apply(const std::vector<core::SettingWrite>& writes, bench::BenchConnection& bench,
                     const std::string& root, const std::string& study);

  /// Puts back what `study` has set, last first. Errors of the first that cannot be; it stays in the journal.
  /// Only what was set on the bench that `root` stands for.
  core::Status restore(bench::BenchConnection& bench, const std::string& root, const std::string& study);

  /// Puts back what any study left set whose program is no longer running. What was set in another boot is gone with
  /// it. Returns the entries that were put back; the journal keeps those that could not be.
  std::vector<Entry> restoreLeftOvers();

  /// What is to be put back. A file that others may write to holds nothing, nor does a line that names no setting of
  /// the kernel's.
  [[nodiscard]] std::vector<Entry> entries() const;

 private:
  core::Status keep(const std::vector<Entry>& entries) const;
  core::Status change(const std::function<void(std::vector<Entry>&)>& how) const;
  std::string path_;
};

/// To be called when a program starts: puts back what a program that died had left set, and says so in the logbook of
/// its study. One sentence for each setting.
[[nodiscard]] std::vector<std::string> putBackLeftOvers(const UserFiles& files, const std::string& person);

}  // namespace session
