#pragma once

#include <cstddef>
#include <functional>
#include <map>
#include <optional>
#include <span>
#include <vector>

#include "core/record/pass.h"
#include "core/study/schedule.h"

namespace core {

/// A counted pass with its place in the study.
struct CountedPass {
  const Pass* pass = nullptr;
  const Visit* visit = nullptr;
  bool tells_spread = true;  ///< false in rounds whose number was chosen by the spread of those before
};

/// What becomes of the passes that a person left out.
enum class ExcludedPasses { StayOut, Count };

/// The counted passes of each case, in order of recording: finished, no warm-up, not left out by a person, one for each
/// slot. A visit whose flip was not performed counts as the one that it continues.
[[nodiscard]] std::vector<std::vector<CountedPass>> countedByCase(const Study& study, std::span<const Slot> schedule,
                                                                  std::span<const Visit> visits,
                                                                  std::span<const Pass> passes,
                                                                  ExcludedPasses excluded = ExcludedPasses::StayOut);

/// How many digits a number has: what comes of a pass's frames has all of them, what a program or a person wrote those
/// that they wrote.
enum class Digits { AsTheHeadline, Written };

/// Groups one number a pass by visit, ready for an estimator. Passes for which `value_of` yields nothing stay out.
[[nodiscard]] std::vector<VisitValues> visitValues(std::span<const CountedPass> passes,
                                                   const std::function<std::optional<double>(const Pass&)>& value_of,
                                                   Digits digits = Digits::AsTheHeadline);

}  // namespace core
