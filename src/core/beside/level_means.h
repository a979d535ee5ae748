#pragma once

#include <optional>

#include "core/beside/study_aside.h"

namespace core {

/// How the row of the suites is called.
inline constexpr const char* kAllCases = "all";

/// The mean of a case at a level by itself, ln on the improvement scale, with its spread over the visits: what flips
/// add is in it. Without an interval from fewer than two visits; nothing without a counted pass, for a metric of
/// differences, where a value is 0 or below, or while what the case does is sealed.
[[nodiscard]] std::optional<Contrast> levelMean(const StudyAside& one, std::size_t case_index, ConfigurationId at);

}  // namespace core
