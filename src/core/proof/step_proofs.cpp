#include "core/proof/step_proofs.h"

#include <algorithm>

#include "core/proof/moved_together.h"
#include "core/record/pair_visits.h"

namespace core {

BenchProof provePair(const Study& study, const Record& record, PairOf pair) {
  const std::vector<Visit> visits = pairVisits(visitsThatStand(record), pair);
  const Record of_pair = pairRecordOf(record, pair, visits);
  const auto moved = movedBetween(study, pair.from, pair.to);
  return moved.size() > 1 ? proveTogether(study, of_pair, pair, moved) : proveBench(pairStudyOf(study, pair), of_pair);
}

std::vector<StepProof> proveSteps(const Study& study, const Record& record) {
  std::vector<PairOf> pairs = stepsOf(study);
  const PairOf headline = headlinePair(study);
  const bool is_step = std::find(pairs.begin(), pairs.end(), headline) != pairs.end();
  if (!is_step && movedBetween(study, headline.from, headline.to).size() == 1) pairs.push_back(headline);
  std::vector<StepProof> steps;
  for (const PairOf& pair : pairs) steps.push_back({pair, provePair(study, record, pair)});
  return steps;
}

int provedSteps(std::span<const StepProof> steps) {
  return static_cast<int>(std::count_if(steps.begin(), steps.end(), [](const StepProof& one) {
    return one.proof.verdict == ProofVerdict::MovedAsDeclared;
  }));
}

std::vector<std::int64_t> retiredVisits(const Study& study, const Record& record, std::span<const StepProof> steps) {
  BenchProof all;  // what of all steps retires a visit
  all.missed_flips = missedFlips(study, visitsThatStand(record));
  for (const StepProof& step : steps)
    all.visits.insert(all.visits.end(), step.proof.visits.begin(), step.proof.visits.end());
  return retiredVisits(all, record.acceptances);
}

}  // namespace core
