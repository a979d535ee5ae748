#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/record/act.h"
#include "core/study/study.h"

namespace core {

/// The search for the highest step that is stable: from the baseline up, a test for errors at each, and from the first
/// that fails down again until one holds once more. Where it stands, and what comes next.
struct StepSearch {
  std::optional<ConfigurationId> next;     ///< to be set and tested
  bool is_coming_down = false;             ///< a step above it has failed
  std::optional<ConfigurationId> highest;  ///< once it is over; nothing where no step held

  [[nodiscard]] bool isOver() const { return !next; }
};

/// Shapes  `told`: everything that was tried, in order. A step that failed once is tried no more, nor is one above it.
[[nodiscard]] StepSearch stepSearchOf(const Study& study, std::span<const StepTried> told);

/// What keeps a study from being searched: it needs levels of one variable from weak to strong, and a command that
/// tests them for errors. With place and remedy; empty where nothing does.
[[nodiscard]] std::vector<Error> searchProblems(const Study& study);

/// The search told in order, a sentence each: "4800 MT/s held: no error", "6400 MT/s failed: 3 errors".
[[nodiscard]] std::vector<std::string> searchStory(const Study& study, std::span<const StepTried> told);

/// "The highest stable step is 6000 MT/s"; what comes next where it is not over. Without its full stop.
[[nodiscard]] std::string searchText(const Study& study, std::span<const StepTried> told);

}  // namespace core
