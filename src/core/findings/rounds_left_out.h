#pragma once

#include <span>
#include <string>

#include "core/findings/findings.h"
#include "core/record/record.h"
#include "core/study/schedule.h"

namespace core {

/// Tells of each case which rounds do not hold all that it compares, of those that were begun and of which nothing is
/// to come, and why: what is said of the first pass that is missing. Does nothing for a plan without rounds.
/// `findings`: with its counted passes and those left out
void fillRoundsLeftOut(Findings& findings, const Study& study, const Record& record, std::span<const Slot> schedule,
                       PairOf pair);

/// "Round 3 is left out: failed. Round 5 …"; empty where none is.
[[nodiscard]] std::string roundsLeftOutText(const CaseFinding& finding);

}  // namespace core
