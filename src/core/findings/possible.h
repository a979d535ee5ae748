#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <vector>

#include "core/record/record.h"
#include "core/study/study.h"

namespace core {

/// Is a case possible at a level at all?
enum class PossibleAnswer { Runs, RunsWithConditions, DoesNotRun };
/// "runs", "runs_with_conditions", "does_not_run". Scripts may rely on it.
[[nodiscard]] const char* possibleName(PossibleAnswer answer);

/// Of how many passes something was said.
struct ConditionMet {
  std::string name;
  int passes = 0;
  int of = 0;
};

/// What the passes of a case say of whether it is possible at one configuration.
struct PossibleAt {
  std::size_t case_index = 0;
  ConfigurationId configuration{};
  PossibleAnswer answer = PossibleAnswer::Runs;
  std::vector<ConditionMet> conditions;  ///< those that were met, "does not run" among them where it ran at other times
  std::string reason;                    ///< why it does not run, of the first such pass; else empty
};

/// Every case that says of itself whether it is possible, at each configuration that it was tried at, case by case.
/// Shapes  passes of `retired_visits` (by id), warm-ups and passes that failed or were left out say nothing
[[nodiscard]] std::vector<PossibleAt> possibleOf(const Study& study, const Record& record,
                                                 std::span<const std::int64_t> retired_visits);

/// "Star survey, 8K dome runs at 32 GB only": one for each case that does not run somewhere, without its full stop.
[[nodiscard]] std::vector<std::string> notPossibleSentences(const Study& study, std::span<const PossibleAt> possible);

/// "runs", "runs, warned of low memory in 3 of 8 passes", "does not run: ended with code 3".
[[nodiscard]] std::string possibleText(const PossibleAt& one);

}  // namespace core
