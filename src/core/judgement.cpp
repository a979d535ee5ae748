#include "core/judgement.h"

namespace core {

Judgement judgementOf(const Study& study, const Record& record) {
  return judgementOf(study, record, proveBench(study, record));
}

Judgement judgementOf(const Study& study, const Record& record, BenchProof proof) {
  Judgement judgement;
  judgement.proof = std::move(proof);
  judgement.findings =
      findingsOf(study, record.visits, record.passes, retiredVisits(judgement.proof, record.acceptances));
  judgement.doubts = doubtsOf(study, judgement.findings, record.acceptances, judgement.proof);
  judgement.unreachable = record.unreachable;
  judgement.claim = claimOf(study, judgement.findings, record.unreachable);
  // Doubts come worst first, accepted ones last.
  const bool has_stop = !judgement.doubts.empty() && judgement.doubts.front().rank == DoubtRank::Stop &&
                        !judgement.doubts.front().accepted_because;
  judgement.claim.is_stopped = judgement.claim.has_result && has_stop;
  return judgement;
}

}  // namespace core
