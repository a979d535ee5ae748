#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <vector>

#include "core/proof/proof.h"

namespace core {

/// The kinds of doubt for which a visit's passes are left out.
inline constexpr const char* kUnlikeItsLevelId = "unlike_its_level";
inline constexpr const char* kLevelNotReachedId = "level_not_reached";
inline constexpr const char* kFlipNotPerformedId = "flip_not_performed";

/// The id of a doubt of that kind about visits, one or more with one cause: "unlike_its_level/visit 3, visit 5".
[[nodiscard]] std::string visitDoubtId(const char* kind, std::span<const std::int64_t> visit_ids);
[[nodiscard]] std::string visitDoubtId(const char* kind, std::int64_t visit_id);
/// The visits that an id of that kind names; none where it is of another kind.
[[nodiscard]] std::vector<std::int64_t> visitsNamedIn(const std::string& doubt_id, const char* kind);

/// Visits whose passes are left out: unlike their level, not what their level is called, or at another level without a
/// restart that it would need; and nobody has accepted it.
[[nodiscard]] std::vector<std::int64_t> retiredVisits(const BenchProof& proof, std::span<const Acceptance> acceptances);
}  // namespace core
