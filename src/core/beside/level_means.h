#pragma once

#include <map>
#include <optional>
#include <vector>

#include "core/beside/study_aside.h"
#include "core/estimate/effect.h"
#include "core/estimate/study_difference.h"

namespace core {

/// How the row of the suites is called.
inline constexpr const char* kAllCases = "all";

/// The means of one study's cases at its levels. Its passes are counted once.
class LevelMeans {
 public:
  /// What `one` looks into must outlive this.
  explicit LevelMeans(const StudyAside& one);

  /// The mean of a case at a level by itself, ln on the improvement scale, with its spread over the visits: what flips
  /// add is in it. Without an interval from fewer than two visits; nothing without a counted pass, for a metric of
  /// differences, where a value is 0 or below, or while what the case does is sealed.
  [[nodiscard]] std::optional<Contrast> at(std::size_t case_index, ConfigurationId configuration) const;

 private:
  StudyAside one_;
  std::vector<std::vector<VisitValues>> values_;  ///< by case
};

/// What another study's numbers are held against; nothing of a contrast without an interval.
[[nodiscard]] std::optional<StudyEffect> numbersOf(const std::optional<Contrast>& contrast);

}  // namespace core
