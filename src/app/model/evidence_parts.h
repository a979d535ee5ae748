#pragma once

#include <optional>
#include <vector>

#include "app/model/evidence.h"

namespace app {

/// What the levels used while one case ran, all of its channels; nothing where nothing was sampled.
[[nodiscard]] std::optional<Evidence::Part> usedPart(const core::Study& study, const core::Judgement& judgement,
                                                     std::size_t case_index, const std::vector<core::Used>& used);

/// What the passes of one case say beside its headline; nothing where it has no further results.
[[nodiscard]] std::optional<Evidence::Part> furtherPart(const core::Study& study, const core::Judgement& judgement,
                                                        std::size_t case_index);

/// The case beside its companion against the same alone; nothing of a case that has none, or that runs alone.
[[nodiscard]] std::optional<Evidence::Part> companionPart(const core::Study& study, const core::Judgement& judgement,
                                                          std::size_t case_index);

}  // namespace app
