#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "core/record/record.h"
#include "core/study/asked_contrasts.h"

namespace core {

/// Those that may be compared. `retired`: ids of visits.
[[nodiscard]] std::vector<Visit> visitsWithout(std::span<const std::int64_t> retired, std::span<const Visit> visits);

/// Those that were measured for this study itself, and not for the one from which their level was taken.
[[nodiscard]] std::vector<Visit> ownVisits(std::span<const Visit> visits);

/// Those that say something of the bench. A visit that ended before its first pass, since its level was not there, is
/// none once it was begun anew, or the level given up.
[[nodiscard]] std::vector<Visit> visitsThatStand(const Record& record);

/// The visits to two configurations as those of a pair: baseline and changed level. Of a pair as they are.
[[nodiscard]] std::vector<Visit> pairVisits(std::span<const Visit> visits, PairOf pair);

/// A record as the study of a pair has it. `visits`: of pairVisits, and must outlive it.
[[nodiscard]] Record pairRecordOf(const Record& record, PairOf pair, std::span<const Visit> visits);

}  // namespace core
