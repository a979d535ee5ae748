#pragma once

#include <optional>
#include <string>
#include <vector>

#include "session/practice/practice.h"

namespace session {

/// What the program said of the same passes.
struct ProgramClaim {
  double percent = 0;
  double lo = 0;
  double hi = 0;
  std::string sentence;  ///< the claim line
};

/// Points of 100, and why.
struct PracticePoints {
  int points = 0;
  std::string why;
};

/// What became of a try, once its claim is signed.
struct PracticeOutcome {
  double truth_percent = 0;
  PracticeClaim claim;
  std::optional<ProgramClaim> program;  ///< nothing where it has no interval yet
  bool holds = false;                   ///< the truth lies in the claim's interval
  /// Of a hundred tries with such a plan, on such a bench: in how many a claim as wide would have held.
  int right_of_100 = 0;
  bool is_by_chance = false;  ///< it holds, and mostly would not have
  bool is_fitting = false;    ///< the recommendation follows from the claim's own interval, and from the truth
  double hours = 0;           ///< at the bench, by its clock
  double cheapest_hours = 0;  ///< of the cheapest plan that would have sufficed; 0: none would
  int flips = 0;
  PracticePoints sound;
  PracticePoints alone;
  PracticePoints thrifty;
  std::vector<std::string> decisions;  ///< what each bought or cost, a sentence each
  std::string take_away;
};

/// Judges a folder whose claim is signed. Errors  those of openPractice and of reading the study
[[nodiscard]] core::Result<PracticeOutcome> practiceOutcome(const std::string& folder);

}  // namespace session
