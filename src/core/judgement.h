#pragma once

#include <span>
#include <string>
#include <utility>
#include <vector>

#include "core/doubts.h"
#include "core/findings.h"
#include "core/proof.h"
#include "core/wording.h"

namespace core {

/// Everything that a study says so far, worked out once for window, command line and report.
struct Judgement {
  BenchProof proof;
  Findings findings;
  std::vector<Doubt> doubts;
  Claim claim;
};

/// `acceptances` pairs a doubt's id with a person's reason.
[[nodiscard]] Judgement judgementOf(const Study& study, std::span<const Visit> visits, std::span<const Pass> passes,
                                    std::span<const VisitCapture> captures,
                                    const std::vector<std::pair<std::string, std::string>>& acceptances);

/// The same with a proof that was worked out before: captures change far less often than passes.
[[nodiscard]] Judgement judgementOf(const Study& study, std::span<const Visit> visits, std::span<const Pass> passes,
                                    BenchProof proof,
                                    const std::vector<std::pair<std::string, std::string>>& acceptances);

}  // namespace core
