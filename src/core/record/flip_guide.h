#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/record/pass.h"
#include "core/study/study.h"

namespace core {

/// What a person does, and minds, to bring the bench to a level: the same on the card and on the command line.
struct FlipGuide {
  std::vector<std::string> steps;
  std::vector<std::string> checklist;  ///< points of the bench's own, to be ticked
  std::vector<std::string> cautions;   ///< the maker's manual has the last word
};

/// Does a person have to set anything for a visit? `before` as below.
[[nodiscard]] bool isFlippedByHand(const Study& study, ConfigurationId to, const std::optional<Visit>& before);

/// `before`: the visit that the bench comes from, nothing at the start. Empty steps where the program sets the level.
[[nodiscard]] FlipGuide flipGuide(const Study& study, ConfigurationId to, const std::optional<Visit>& before);

}  // namespace core
