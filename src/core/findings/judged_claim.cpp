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

void adjustByPart(const std::vector<FamilyMember>& members, const Study& study, const char* what) {
  for (const bool is_second_part : {false, true}) {
    std::vector<Claimed*> family;
    for (const FamilyMember& one : members)
      if (study.cases[one.case_index].is_second_part == is_second_part) family.push_back(one.claim);
    adjustFamily(family, study.confidence, what);
  }
}

}  // namespace core
