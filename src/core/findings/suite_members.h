#pragma once

#include <functional>
#include <optional>
#include <span>
#include <vector>

#include "core/estimate/effect.h"
#include "core/study/study.h"

namespace core {

/// Is a pass of that case still to come there, and would it count?
using IsAwaited = std::function<bool(std::size_t case_index, ConfigurationId at)>;

/// The visits of a case as a suite sums them up, in the metric's own unit; nothing where it is none of its members.
/// Summed up are the cases of the first part that should respond, in percent, without a value of 0 or below that
/// counts, and that have a result, or may still get one, at each of the configurations that are compared. Shapes
/// `compared`: those that any case was measured at
[[nodiscard]] std::optional<std::vector<VisitValues>> suiteVisitsOf(const Study& study, std::size_t case_index,
                                                                    std::span<const VisitValues> visits,
                                                                    std::span<const ConfigurationId> compared,
                                                                    const IsAwaited& is_awaited);

/// Does any visit to that configuration have a value?
[[nodiscard]] bool hasValuesAt(std::span<const VisitValues> visits, ConfigurationId configuration);

/// Those of a study whose configurations share their spread; none where each contrast has its own.
[[nodiscard]] std::vector<VisitValues> sharingVisits(const Study& study, const std::vector<VisitValues>& everywhere);

/// The configurations at which any of those cases has a value.
/// Shapes  visits, a list a case
[[nodiscard]] std::vector<ConfigurationId> measuredOf(const Study& study,
                                                      std::span<const std::vector<VisitValues>> cases);

/// 1 at each of them: what a contrast of all of them counts.
[[nodiscard]] std::vector<double> weightsAt(std::span<const ConfigurationId> compared);

}  // namespace core
