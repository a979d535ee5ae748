#include "core/findings/judged_claim.h"

#include "core/values/percent.h"

namespace core {

Claimed claimedOf(const Contrast& improvement, const NoticeThreshold& threshold, const JudgedBy& by) {
  Claimed claim;
  claim.marks.is_so_far = !by.is_plan_complete;
  claim.marks.holds_if_flips_add_nothing = by.is_flip_unseen;
  if (by.is_log) {
    claim.verdict = verdictOf(percentChangeOf(improvement).interval, threshold);
    claim.p = nullPsOf(improvement, lnOfPercent(threshold.loss_percent), lnOfPercent(threshold.gain_percent));
  } else if (by.scale == Scale::Difference && improvement.inference) {
    const double unit = by.threshold_in_unit;
    claim.verdict = verdictWithin(improvement.inference->lo, improvement.inference->hi, -unit, unit);
    claim.p = nullPsOf(improvement, -unit, unit);
  }
  return claim;
}

}  // namespace core
