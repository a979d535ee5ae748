#pragma once

#include <vector>

#include "core/study/study.h"

namespace core {

/// One pass of the plan. Its position in the schedule is its lasting number.
struct Slot {
  int visit = 1;  ///< planned visit, from 1
  int round = 1;  ///< from 1
  ConfigurationId configuration = ConfigurationId::Baseline;
  std::size_t case_index = 0;
  bool is_warm_up = false;
  int number = 1;  ///< which warm-up or counted pass of this case in this visit, from 1

  bool operator==(const Slot&) const = default;
  /// Of this case at this configuration, and no warm-up.
  [[nodiscard]] bool counts(std::size_t a_case, ConfigurationId at) const {
    return !is_warm_up && case_index == a_case && configuration == at;
  }
};

/// A planned stay at one level.
struct PlannedVisit {
  int number = 1;
  int round = 1;
  ConfigurationId configuration = ConfigurationId::Baseline;
  int passes = 0;  ///< counted passes of each of its part's cases
};

/// The visits of the plan to so many configurations, in order. There and back shares out the passes so that each
/// level's visits have the same mean place in the order: a steady drift then cancels.
[[nodiscard]] std::vector<PlannedVisit> visitsOf(const Plan& plan, std::size_t configurations);
[[nodiscard]] std::vector<PlannedVisit> visitsOf(const Study& study);

/// All passes of the study in the order in which they run: visit by visit, case by case, warm-ups first.
[[nodiscard]] std::vector<Slot> scheduleOf(const Study& study);

/// "visit 3, pass 2"; a warm-up is called one. `slot` as the schedule has it.
[[nodiscard]] std::string passName(const Slot& slot);

}  // namespace core
