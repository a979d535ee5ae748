#include "core/judgement/judgement.h"

#include <fmt/format.h>

#include "core/judgement/claim.h"
#include "core/judgement/finding_doubts.h"
#include "core/judgement/pass_doubts.h"
#include "core/record/looks.h"

namespace core {

// What would tell of the effect is taken out: the number, and the doubts that quote it.
static void seal(Judgement& judgement) {
  const int planned = judgement.findings.planned_passes;
  judgement.claim.has_result = false;
  judgement.claim.verdict.clear();
  judgement.claim.safety.clear();
  judgement.claim.outcome = fmt::format("… sealed until pass {} of {}", planned, planned);
  std::erase_if(judgement.doubts, tellsOfEffect);
}

Judgement judgementOf(const Study& study, const Record& record) {
  return judgementOf(study, record, proveBench(study, record));
}

Judgement judgementOf(const Study& study, const Record& record, BenchProof proof) {
  Judgement judgement;
  judgement.proof = std::move(proof);
  const auto retired = retiredVisits(judgement.proof, record.acceptances);
  judgement.findings = findingsOf(study, record, retired);
  judgement.findings.opened_early = record.opened_early;
  if (judgement.findings.excluded_passes > 0) {
    std::vector<Pass> all(record.passes.begin(), record.passes.end());
    for (Pass& pass : all) pass.excluded_because.clear();
    Record with_all = record;
    with_all.passes = all;
    judgement.with_all = findingsOf(study, with_all, retired);
  }
  judgement.look = lookReached(study, record);
  judgement.is_sealed = study.plan.is_sealed && record.opened_early.empty() && judgement.findings.recorded_passes > 0 &&
                        !judgement.findings.is_plan_complete && !judgement.look;
  std::vector<Doubt> found = passDoubts(study, record, judgement.findings);
  for (Doubt& doubt : findingDoubts(study, judgement.findings, judgement.proof)) found.push_back(std::move(doubt));
  judgement.doubts = doubtsOf(study, judgement.findings, record, judgement.proof, std::move(found));
  judgement.extension = extensionOf(study, judgement.findings);
  judgement.predictions = record.predictions;
  judgement.pins = record.pins;
  judgement.explanations = record.explanations;
  judgement.unreachable = record.unreachable;
  const std::vector<Slot> schedule = scheduleOf(study);
  for (const Pass& pass : record.passes)
    if (pass.slot < schedule.size()) judgement.pass_names[pass.id] = passName(schedule[pass.slot]);
  judgement.claim = claimOf(study, judgement.findings, record.unreachable);
  if (judgement.is_sealed) seal(judgement);
  // Doubts come worst first, accepted ones last.
  const bool has_stop = !judgement.doubts.empty() && judgement.doubts.front().rank == DoubtRank::Stop &&
                        !judgement.doubts.front().accepted_because;
  judgement.claim.is_stopped = judgement.claim.has_result && has_stop;
  if (judgement.claim.is_stopped && !judgement.claim.safety.empty())
    judgement.claim.safety = "Open whether it is safe to leave on: a stop stands";
  return judgement;
}

}  // namespace core
