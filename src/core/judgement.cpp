#include "core/judgement.h"

namespace core {

Judgement judgementOf(const Study& study, std::span<const Visit> visits, std::span<const Pass> passes,
                      std::span<const VisitCapture> captures,
                      const std::vector<std::pair<std::string, std::string>>& acceptances) {
  return judgementOf(study, visits, passes, proveBench(study, visits, captures), acceptances);
}

Judgement judgementOf(const Study& study, std::span<const Visit> visits, std::span<const Pass> passes, BenchProof proof,
                      const std::vector<std::pair<std::string, std::string>>& acceptances) {
  Judgement judgement;
  judgement.proof = std::move(proof);
  judgement.findings = findingsOf(study, visits, passes, retiredVisits(judgement.proof, acceptances));
  judgement.doubts = doubtsOf(study, judgement.findings, acceptances, judgement.proof);
  judgement.claim = claimOf(study, judgement.findings);
  // Doubts come worst first, accepted ones last.
  const bool has_stop = !judgement.doubts.empty() && judgement.doubts.front().rank == DoubtRank::Stop &&
                        !judgement.doubts.front().accepted_because;
  judgement.claim.is_stopped = judgement.claim.has_result && has_stop;
  return judgement;
}

}  // namespace core
