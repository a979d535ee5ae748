#include "core/judgement/judgement.h"

#include <algorithm>
#include <iterator>
#include <set>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/judgement/claim.h"
#include "core/judgement/finding_doubts.h"
#include "core/judgement/further_doubts.h"
#include "core/judgement/pass_doubts.h"
#include "core/judgement/safety.h"
#include "core/judgement/shape_doubts.h"
#include "core/judgement/step_doubts.h"
#include "core/judgement/taken_doubts.h"
#include "core/record/looks.h"
#include "core/record/pair_visits.h"

namespace core {

// What would tell of the effect is taken out: the number, and the doubts that quote it.
static void seal(Judgement& judgement) {
  const int planned = judgement.findings.planned_passes;
  judgement.claim.has_result = false;
  judgement.claim.verdict.clear();
  judgement.claim.verb = Claim().verb;
  judgement.claim.safety.clear();
  judgement.claim.also.clear();
  judgement.further.clear();
  judgement.companions.clear();
  judgement.value.clear();
  judgement.claim.outcome = fmt::format("… sealed until all {} passes are done", planned);
  std::erase_if(judgement.doubts, [](const Doubt& one) { return one.kind->tells_of_effect; });
}

// Of the cases that were added later nothing is left but how many passes they have; the first part stands.
static void sealCase(CaseFinding& finding) {
  CaseFinding sealed;
  sealed.case_index = finding.case_index;
  sealed.title = finding.title;
  sealed.metric = finding.metric;
  sealed.counted_baseline = finding.counted_baseline;
  sealed.counted_changed = finding.counted_changed;
  sealed.failed = finding.failed;
  sealed.left_out = std::move(finding.left_out);
  sealed.why_no_effect = "Sealed until all passes of the second part are done.";
  finding = std::move(sealed);
}

static void sealSecondPart(Judgement& judgement, const Study& study) {
  const std::size_t first = study.firstPartCases();
  for (std::size_t i = first; i < judgement.findings.cases.size(); ++i) {
    sealCase(judgement.findings.cases[i]);
    if (judgement.with_all) sealCase(judgement.with_all->cases[i]);
  }
  const auto is_second = [&](std::optional<std::size_t> one) { return one && *one >= first; };
  const auto clear = [&](auto& list) {
    std::erase_if(list, [&](const auto& one) { return is_second(one.case_index); });
  };
  clear(judgement.shape.contrasts);
  clear(judgement.shape.chains);
  for (ValuesOf& one : judgement.shape.values)  // as of a case without a pass
    if (is_second(one.case_index)) one.at.assign(one.at.size(), {});
  for (LadderFinding& one : judgement.shape.ladders) {
    if (!is_second(one.case_index)) continue;
    LadderFinding untold;
    untold.case_index = one.case_index;
    one = std::move(untold);
  }
  clear(judgement.further);
  clear(judgement.companions);
}

static BenchProof proofOf(const Study& study, const Record& record, std::span<const StepProof> steps, PairOf pair) {
  for (const StepProof& step : steps)
    if (step.pair == pair) return step.proof;
  return movedBetween(study, pair.from, pair.to).size() == 1 ? provePair(study, record, pair) : BenchProof{};
}

bool Judgement::isPairAsked() const {
  const PairOf reversed{pair.to, pair.from};
  return std::any_of(shape.asked.begin(), shape.asked.end(), [&](const AskedContrast& one) {
    return one.pair && (*one.pair == pair || *one.pair == reversed);
  });
}

const char* chosenAfterwardsText() {
  return "Nobody asked this before the first pass: whoever looks at enough pairs finds one that differs. Confirm it "
         "in a study of its own";
}

// A comparison that the study asks is judged among all that it asks, wherever it is printed: as a contrast, or case by
// case. Two that were chosen afterwards are a family of their own.
static void takeClaims(Findings& findings, const ShapeFindings& shape, PairOf pair) {
  for (std::size_t asked = 0; asked < shape.asked.size(); ++asked) {
    if (shape.asked[asked].pair != pair) continue;
    for (CaseFinding& finding : findings.cases) {
      const ContrastFinding* one = shape.find(asked, finding.case_index);
      if (!one || !finding.effect) continue;
      static_cast<Claimed&>(finding) = *one;
      if (one->is_log) finding.threshold = one->threshold;
    }
    if (const ContrastFinding* one = shape.find(asked, std::nullopt); one && findings.suite) {
      static_cast<Claimed&>(*findings.suite) = *one;
      findings.suite->threshold = one->threshold;
    }
    return;
  }
}

std::vector<Used> usedOf(const Study& study, const Record& record, const Judgement& judgement) {
  if (judgement.is_sealed) return {};
  auto used = usedOf(study, record, retiredVisits(study, record, judgement.steps), judgement.pair, judgement.findings);
  std::erase_if(used, [&](const Used& one) { return judgement.isSealed(study.cases[one.case_index]); });
  return used;
}

Judgement judgementOf(const Study& study, const Record& record) {
  return judgementOf(study, record, proveSteps(study, record));
}

Judgement judgementOf(const Study& study, const Record& record, std::vector<StepProof> steps,
                      std::optional<PairOf> pair, JudgementMemory* memory) {
  Judgement judgement;
  judgement.pair = pair.value_or(headlinePair(study));
  judgement.pair_study = pairStudyOf(study, judgement.pair);
  judgement.proof = proofOf(study, record, steps, judgement.pair);
  judgement.steps = std::move(steps);
  const auto retired = retiredVisits(study, record, judgement.steps);
  CaseMemory* const cases = memory ? &memory->cases : nullptr;
  judgement.findings = findingsOf(study, record, retired, judgement.pair, cases);
  judgement.findings.opened_early = record.opened_early;
  judgement.shape =
      shapeFindingsOf(study, record, judgement.findings.done, retired, memory ? &memory->comparables : nullptr);
  if (study.shape != Shape::Pair) takeClaims(judgement.findings, judgement.shape, judgement.pair);
  judgement.further = furtherFindingsOf(study, record, retired, judgement.pair, judgement.findings.done);
  judgement.companions = companionFindingsOf(study, record, retired, judgement.pair, judgement.findings.done);
  judgement.possible = possibleOf(study, record, retired);
  judgement.value = valuesOf(study, judgement.shape);
  if (judgement.findings.excluded_passes > 0)
    judgement.with_all = findingsOf(study, record, retired, judgement.pair, cases, ExcludedPasses::Count);
  judgement.is_second_part_sealed = isSecondPartSealed(study, record);
  if (judgement.is_second_part_sealed) sealSecondPart(judgement, study);
  judgement.look = lookReached(study, record);
  judgement.is_sealed = isSealed(study, record);
  std::vector<Doubt> found;
  const auto add = [&](std::vector<Doubt> more) {
    found.insert(found.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
  };
  if (judgement.findings.recorded_passes > 0) add(stepDoubts(study, record, judgement.steps));
  add(passDoubts(study, record, judgement.findings));
  add(findingDoubts(judgement.pair_study, judgement.findings, judgement.proof));
  add(shapeDoubts(study, judgement.shape, record));
  add(furtherDoubts(study, judgement.further));
  add(takenDoubts(study, record, retired));
  judgement.doubts = doubtsOf(study, judgement.findings, record, std::move(found));
  judgement.extension = extensionOf(study, judgement.findings);
  judgement.predictions = record.predictions;
  judgement.pins = record.pins;
  judgement.explanations = record.explanations;
  judgement.unreachable = record.unreachable;
  judgement.pass_names = PassNames(scheduleOf(study), record.passes);
  judgement.claim = study.shape == Shape::Pair ? claimOf(study, judgement.findings, record.unreachable)
                                               : shapeClaimOf(study, judgement.findings, judgement.shape);
  judgement.claim.first = notPossibleSentences(study, judgement.possible);
  judgement.claim.safety = safetyText(study, judgement.shape, record, judgement.steps, judgement.possible);
  if (judgement.is_sealed) seal(judgement);
  // Doubts come worst first, accepted ones last.
  const bool has_stop = !judgement.doubts.empty() && judgement.doubts.front().rank == DoubtRank::Stop &&
                        !judgement.doubts.front().accepted_because;
  judgement.claim.is_stopped = judgement.claim.has_result && has_stop;
  if (judgement.claim.is_stopped && !judgement.claim.safety.empty()) judgement.claim.safety = safetyWhileStopped(study);
  return judgement;
}

}  // namespace core
