#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/machine/variable_kind.h"
#include "core/study/study.h"

namespace core {

/// The two levels that a person most likely means of those that a bench offers, weak to strong: as it is now, and the
/// next one. Empty where fewer than two are offered. Shapes  `now`: the place of the level that it is at
[[nodiscard]] std::vector<Level> likelyPair(std::span<const Level> offered, std::optional<std::size_t> now);

/// A variable declared to be of a kind (null: of none). The kind brings the command that measures it, the test that it
/// calls for, its name, what a flip takes and the likely levels, each unless a person has said otherwise: what the kind
/// before brought gives way. `likely` and `likely_before` are the likely pairs of both kinds.
[[nodiscard]] Study withKind(Study study, std::size_t variable, const VariableKind* kind,
                             const std::vector<Level>& likely, const std::vector<Level>& likely_before);

/// A study with one of the offered levels put in or taken out. Of a pair the level named `before`, which was pressed
/// before, stays and the other gives way; of more than two each is put in or taken out, two at least are left, and
/// those that a person wrote stay. In the order of the offer; the baseline stays the first, or the one that it was. The
/// same study where its configurations are listed: they name levels.
[[nodiscard]] Study withOffered(Study study, std::size_t variable, std::span<const Level> offered, std::size_t pressed,
                                const std::string& before);

}  // namespace core
