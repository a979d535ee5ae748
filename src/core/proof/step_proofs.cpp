#include "core/proof/step_proofs.h"

#include <algorithm>

#include "core/record/pair_visits.h"

namespace core {

BenchProof provePair(const Study& study, const Record& record, PairOf pair) {
  const std::vector<Visit> visits = pairVisits(visitsThatStand(record), pair);
  return proveBench(pairStudyOf(study, pair), pairRecordOf(record, pair, visits));
}

std::vector<StepProof> proveSteps(const Study& study, const Record& record) {
  std::vector<PairOf> pairs = stepsOf(study);
  const PairOf headline = headlinePair(study);
  if (std::find(pairs.begin(), pairs.end(), headline) == pairs.end()) pairs.push_back(headline);
  std::vector<StepProof> steps;
  for (const PairOf& pair : pairs)
    if (movedBetween(study, pair.from, pair.to).size() == 1) steps.push_back({pair, provePair(study, record, pair)});
  return steps;
}

std::vector<std::int64_t> retiredVisits(const Study& study, const Record& record, std::span<const StepProof> steps) {
  BenchProof all;  // what of all steps retires a visit
  all.missed_flips = missedFlips(study, visitsThatStand(record));
  for (const StepProof& step : steps)
    all.visits.insert(all.visits.end(), step.proof.visits.begin(), step.proof.visits.end());
  return retiredVisits(all, record.acceptances);
}

}  // namespace core
