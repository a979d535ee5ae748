#pragma once

#include <optional>
#include <string>
#include <vector>

#include "bench/bench_connection.h"
#include "core/study/study.h"
#include "core/values/result.h"
#include "session/practice/exercise.h"
#include "session/user/user_files.h"

namespace session {

/// How somebody begins an exercise.
struct PracticeStart {
  std::string exercise;  ///< an id, or a file
  std::string folder;    ///< where the bench and the study are made
  double pace = 0;       ///< 1: passes take as long as at a real bench; 0: as little as they can
  std::optional<std::string> order;
  std::optional<int> rounds;             ///< or passes a level, by the order
  std::optional<int> passes_per_visit;   ///< in rounds
  std::map<std::string, double> chosen;  ///< of free practice, in place of what would be drawn
};

/// What lies in a folder of practice, but for what is hidden.
struct PracticeTry {
  std::string exercise;
  std::string title;
  std::string story;
  std::string asks;
  PracticeFlip flip = PracticeFlip::Program;
  std::map<std::string, std::string> settings;  ///< as Exercise
  std::string study;                            ///< the study's file
  std::string restarts_first;                   ///< that of a null study; empty where none is offered
  std::string bench;                            ///< the folder of the simulated bench
  std::string truth_sha256;                     ///< of the sealed truth
  bool is_signed = false;
};

/// What somebody would tell whoever asked.
enum class Recommendation { Use, Keep, CannotSay };
/// "use", "keep", "cannot_say"
[[nodiscard]] const char* recommendationName(Recommendation recommendation);
[[nodiscard]] std::optional<Recommendation> recommendationFrom(std::string_view name);

/// What a person says before the truth is shown.
struct PracticeClaim {
  double percent = 0;
  double lo = 0;
  double hi = 0;
  Recommendation recommend = Recommendation::CannotSay;
  std::string doubts;  ///< which they dealt with, in their words
};

/// Makes a bench with a truth that is drawn now, and a study on it. Nothing is started by it but the simulated bench's
/// own program. Errors  NotAllowed where the folder holds anything; those of the exercise and of its design; Io
[[nodiscard]] core::Result<PracticeTry> startPractice(const PracticeStart& start, const bench::BenchConnection& bench);

/// Errors  Missing where none was begun there; Malformed
[[nodiscard]] core::Result<PracticeTry> practiceIn(const std::string& folder);

/// Brings the simulated bench to what its menu, or its part, says, and restarts it. Empty: restarts it alone.
/// Errors  Missing{program}; CommandFailed with the bench's words
core::Status setPracticeBench(const PracticeTry& about, const std::string& assignment,
                              const bench::BenchConnection& bench);

/// Files the claim, once. Errors  NotAllowed where one was signed; OutOfRange for numbers that are none; Io
core::Status signPractice(const std::string& folder, const PracticeClaim& claim);

/// The truth of a folder whose claim is signed, checked by its sum. Errors  NotAllowed before it is signed; Malformed
struct OpenedPractice {
  PracticeTry about;
  Exercise exercise;
  DrawnTruth truth;
  PracticeClaim claim;
};
[[nodiscard]] core::Result<OpenedPractice> openPractice(const std::string& folder);

}  // namespace session
