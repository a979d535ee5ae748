#pragma once

#include <cstddef>
#include <span>

#include "core/proof/proof.h"
#include "core/study/asked_contrasts.h"

namespace core {

/// The proof of a step in which several variables move at once: each moved as declared, and nothing but what one of
/// them may move. What speaks most against it is its verdict and reason.
/// `record`: of pairRecordOf. `moved`: places among the study's variables, at least one.
[[nodiscard]] BenchProof proveTogether(const Study& study, const Record& record, PairOf pair,
                                       std::span<const std::size_t> moved);

}  // namespace core
