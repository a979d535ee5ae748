#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "core/proof/retired_visits.h"
#include "core/study/asked_contrasts.h"

namespace core {

/// The proof of one step of a study: between two of its configurations, its visits numbered as the whole study has
/// them.
struct StepProof {
  PairOf pair;
  BenchProof proof;
};

/// The two as a study and a record of their own: moved as declared, and nothing else? Where several variables move at
/// once, all of them.
[[nodiscard]] BenchProof provePair(const Study& study, const Record& record, PairOf pair);

/// Every step that the study's shape takes; and the pair that it is about in one line, where one variable moves there.
[[nodiscard]] std::vector<StepProof> proveSteps(const Study& study, const Record& record);

/// How many of them moved as declared.
[[nodiscard]] int provedSteps(std::span<const StepProof> steps);

/// Those of any step, and those whose flip was not performed as the whole study tells it.
[[nodiscard]] std::vector<std::int64_t> retiredVisits(const Study& study, const Record& record,
                                                      std::span<const StepProof> steps);

}  // namespace core
