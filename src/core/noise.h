#pragma once

#include <span>
#include <string>
#include <vector>

#include "core/null_study.h"
#include "core/pass.h"
#include "core/study.h"

namespace core {

/// The noise of one case on a bench, as a null study found it.
struct CaseNoise {
  std::string title;
  NullStudy noise;
};

/// What the visits of a null study say about each case; cases that it cannot tell of are left out.
/// Shapes  visits and passes in any order; both sides count, since the level stays
[[nodiscard]] std::vector<CaseNoise> noiseOf(const Study& study, std::span<const Visit> visits,
                                             std::span<const Pass> passes);

}  // namespace core
