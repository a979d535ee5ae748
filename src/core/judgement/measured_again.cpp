#include "core/judgement/measured_again.h"

#include <algorithm>

#include "core/proof/retired_visits.h"

namespace core {

MeasuredAgain::MeasuredAgain(const Study& study, const Record& record, std::span<const StepProof> steps)
    : record_(record) {
  const std::vector<std::int64_t> retired = retiredVisits(study, record, steps);
  left_out_.insert(retired.begin(), retired.end());
}

void MeasuredAgain::settle(Doubt& doubt, std::span<const std::int64_t> visit_ids) const {
  if (!std::all_of(visit_ids.begin(), visit_ids.end(), [&](std::int64_t id) { return isReplaced(id); })) return;
  doubt.rank = DoubtRank::Note;
  doubt.remedy = visit_ids.size() == 1 ? "Its passes are left out; it was measured again"
                                       : "Their passes are left out; they were measured again";
}

bool MeasuredAgain::isReplaced(std::int64_t visit_id) const {
  if (!left_out_.contains(visit_id)) return false;  // somebody accepted it: its passes count
  const auto visit =
      std::find_if(record_.visits.begin(), record_.visits.end(), [&](const Visit& one) { return one.id == visit_id; });
  if (visit == record_.visits.end()) return false;
  const auto is_repeated = [&](const RepeatedVisit& one) { return one.visit == visit->planned; };
  if (std::none_of(record_.repeated_visits.begin(), record_.repeated_visits.end(), is_repeated)) return false;
  return std::any_of(record_.visits.begin(), record_.visits.end(), [&](const Visit& later) {
    const auto has_pass = [&](const Pass& pass) { return pass.visit_id == later.id && pass.value.has_value(); };
    return later.planned == visit->planned && later.id > visit_id && !left_out_.contains(later.id) &&
           std::any_of(record_.passes.begin(), record_.passes.end(), has_pass);
  });
}

}  // namespace core
