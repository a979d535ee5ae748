#pragma once

#include <map>
#include <string>
#include <vector>

#include "session/practice/practice_score.h"

namespace session {

/// One try as it is remembered.
struct PracticeEntry {
  std::string exercise;
  std::string truth_sha256;  ///< of which try; a truth that is shown twice counts once
  double percent = 0;
  double lo = 0;
  double hi = 0;
  double truth = 0;
  bool holds = false;
  int sound = 0;
  int alone = 0;
  int thrifty = 0;
  std::int64_t at_ms = 0;
};

/// How often a person's claims held, with its interval: of all, or of one exercise.
struct Calibration {
  int claims = 0;
  int held = 0;
  double lo = 0;  ///< share, 0 to 1
  double hi = 1;
};

/// What somebody practised, on this machine alone: a JSON object a line, never in any study.
class PracticeRecord {
 public:
  /// `path`: UserFiles::practice.
  explicit PracticeRecord(std::string path) : path_(std::move(path)) {}
  [[nodiscard]] std::vector<PracticeEntry> all() const;
  /// Once for each try. Errors  Io
  core::Status add(const PracticeEntry& entry) const;
  /// Forgets everything. Errors  Io
  core::Status forget() const;

 private:
  std::string path_;
};

/// Source  Wilson 1927, 95 %
[[nodiscard]] Calibration calibrationOf(const std::vector<PracticeEntry>& entries);
/// By exercise.
[[nodiscard]] std::map<std::string, Calibration> calibrationByExercise(const std::vector<PracticeEntry>& entries);
/// "Of your 12 claims at 95 % 9 were true, 46 to 91 of 100."
[[nodiscard]] std::string calibrationText(const Calibration& calibration);

/// Judges a folder whose claim is signed, and remembers the try. Errors of practiceOutcome
[[nodiscard]] core::Result<PracticeOutcome> revealPractice(const std::string& folder, const PracticeRecord& record);

}  // namespace session
