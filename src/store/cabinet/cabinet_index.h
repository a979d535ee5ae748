#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <vector>

#include "core/values/result.h"
#include "store/study/database.h"

namespace store {

/// The index of a person's studies: what each said when it was read last. It repeats what the studies hold, can be
/// thrown away at any time, and is never the truth. One SQLite file with full-text search. Every function opens the
/// file, and makes it anew where it is missing, damaged or from another version. Errors as Database.
class CabinetIndex {
 public:
  explicit CabinetIndex(std::string path) : path_(std::move(path)) {}

  /// A study as it was read last, or why it could not be.
  struct Entry {
    std::string path;
    std::int64_t size = 0;         ///< of the file as it was read
    std::int64_t changed_ns = 0;   ///< when it was written last
    std::int64_t bench_state = 0;  ///< of its bench, as retired_by knows it: when its last entry began
    std::string sentence;          ///< the claim; of one that cannot be read why
    std::string answer;
    std::string bench;
    std::string variable;
    std::string shape;
    std::int64_t at_ms = 0;  ///< of its last pass; 0 without one
    std::string state;       ///< "asked", "running", "complete", "unreadable"
    int stops = 0;           ///< doubts that nobody has accepted
    int cautions = 0;
    int notes = 0;
    std::vector<std::string> retired_by;  ///< facts of its bench that are not what they were
    std::string words;                    ///< what it is found by
    std::string identity;                 ///< of the study, the same in each of its copies
    std::int64_t begun_ms = 0;            ///< when its first visit began; 0 without one
    std::int64_t passes = 0;
    std::string
        copy_of;  ///< as find() tells: the path of the same study with more passes in it; empty: it is the study
  };

  /// Folders that a person named, in order.
  [[nodiscard]] core::Result<std::vector<std::string>> folders() const;
  /// Errors besides: NotAllowed for one that is there already
  core::Status addFolder(const std::string& folder);
  /// With what was read there. Errors besides: Missing for one that is not there
  core::Status removeFolder(const std::string& folder);

  /// Of each file what tells whether it is still the same: without its words.
  [[nodiscard]] core::Result<std::map<std::string, Entry>> known() const;
  /// Takes what was read anew, and forgets files that are gone; all at once.
  core::Status update(const std::vector<Entry>& read, const std::vector<std::string>& gone);

  /// All studies, or those in which every word occurs, as a word's beginning, and that were measured last in the days
  /// that are named, see daySpanOf: what runs first, then the latest.
  [[nodiscard]] core::Result<std::vector<Entry>> find(const std::string& words) const;

  /// Where a study was seen last, that with the most passes first; empty where none of that identity was seen.
  [[nodiscard]] core::Result<std::string> pathOf(const std::string& identity) const;

 private:
  [[nodiscard]] core::Result<Database> open() const;
  std::string path_;
};

}  // namespace store
