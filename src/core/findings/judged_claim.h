#pragma once

#include <cstddef>
#include <vector>

#include "core/estimate/claims.h"
#include "core/estimate/notice_threshold.h"
#include "core/study/study.h"
#include "core/values/metric.h"

namespace core {

/// Where an estimate stands beside what it is judged by.
struct JudgedBy {
  bool is_log = true;            ///< in percent; else in the metric's unit
  Scale scale = Scale::Ratio;    ///< of its metric; a ratio that is not in percent has no verdict: a value was 0
  double threshold_in_unit = 1;  ///< of a metric of differences
  bool is_plan_complete = true;
  bool is_flip_unseen = false;
};

/// The verdict on a contrast, improvement scale, with its marks and the p that it rests on: one rule for a pair's
/// cases, for every contrast of every shape, and for suites. Not adjusted for any family yet.
[[nodiscard]] Claimed claimedOf(const Contrast& improvement, const NoticeThreshold& threshold, const JudgedBy& by);

/// A claim of a case, among those that are judged together.
struct FamilyMember {
  Claimed* claim = nullptr;
  std::size_t case_index = 0;
};

/// Marks what does not stand among so many (see adjustFamily): those of cases that were added later among themselves,
/// so that what the first part claimed stays what it was.
void adjustByPart(const std::vector<FamilyMember>& members, const Study& study, const char* what);

}  // namespace core
