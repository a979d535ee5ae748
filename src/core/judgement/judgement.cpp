#include "core/judgement/judgement.h"

#include <algorithm>
#include <iterator>
#include <set>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/judgement/bench_doubts.h"
#include "core/judgement/claim.h"
#include "core/judgement/finding_doubts.h"
#include "core/judgement/pass_doubts.h"
#include "core/judgement/safety.h"
#include "core/judgement/shape_doubts.h"
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
  judgement.claim.outcome = fmt::format("… sealed until all {} passes are done", planned);
  std::erase_if(judgement.doubts, [](const Doubt& one) { return one.kind->tells_of_effect; });
}

namespace {

/// What the steps of a study say of the bench. What is said of a visit is said once; what several steps say alike has
/// one cause, and is told, and accepted, once; what only one step says names it.
class StepDoubts {
 public:
  explicit StepDoubts(const Study& study) : study_(study) {}

  void add(const Study& two, std::vector<Doubt> doubts) {
    const std::string between = fmt::format("{} to {}", two.nameOf(Side::Baseline), two.nameOf(Side::Changed));
    for (Doubt& doubt : doubts) {
      const bool is_of_kind = doubt.kind == &doubt::kKindNotDeclared;
      const bool is_of_visit = doubt.id.find("/visit ") != std::string::npos || doubt.kind == &doubt::kVirtualMachine;
      if (study_.variables.size() > 1 && is_of_kind) doubt.id += "/" + two.variable().name;
      const bool names_step = study_.shape != Shape::Pair && !is_of_visit && !is_of_kind;
      Said& said = saidLike(doubt);
      if (names_step) said.steps.push_back(between);
    }
  }

  [[nodiscard]] std::vector<Doubt> take() {
    std::vector<Doubt> doubts;
    for (Said& one : said_) {
      if (!one.steps.empty()) {
        const auto others = one.steps.size() - 1;
        const std::string where = others == 0
                                      ? one.steps.front()
                                      : fmt::format("{} and {}", one.steps.front(),
                                                    countText(static_cast<int>(others), "other step", "other steps"));
        one.doubt.id += "/" + one.steps.front();
        one.doubt.sentence = where + ": " + one.doubt.sentence;
      }
      doubts.push_back(std::move(one.doubt));
    }
    return doubts;
  }

 private:
  struct Said {
    Doubt doubt;
    std::vector<std::string> steps;
  };

  Said& saidLike(const Doubt& doubt) {
    for (Said& one : said_)
      if (one.doubt.id == doubt.id && one.doubt.sentence == doubt.sentence) return one;
    return said_.emplace_back(Said{doubt, {}});
  }

  const Study& study_;
  std::vector<Said> said_;
};

}  // namespace

static std::vector<Doubt> stepDoubts(const Study& study, const Record& record, std::span<const StepProof> steps) {
  StepDoubts doubts(study);
  for (const StepProof& step : steps) {
    const std::vector<Visit> visits = pairVisits(record.visits, step.pair);
    const Study two = pairStudyOf(study, step.pair);
    doubts.add(two, benchDoubts(two, pairRecordOf(record, step.pair, visits), step.proof));
  }
  return doubts.take();
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
  judgement.shape = shapeFindingsOf(study, record, judgement.findings.is_plan_complete, retired,
                                    memory ? &memory->comparables : nullptr);
  if (judgement.findings.excluded_passes > 0) {
    judgement.with_all = findingsOf(study, record, retired, judgement.pair, cases, ExcludedPasses::Count);
  }
  judgement.look = lookReached(study, record);
  judgement.is_sealed = isSealed(study, record);
  std::vector<Doubt> found;
  const auto add = [&](std::vector<Doubt> more) {
    found.insert(found.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
  };
  if (judgement.findings.recorded_passes > 0) add(stepDoubts(study, record, judgement.steps));
  add(passDoubts(study, record, judgement.findings));
  add(findingDoubts(judgement.pair_study, judgement.findings, judgement.proof));
  add(shapeDoubts(study, judgement.shape));
  judgement.doubts = doubtsOf(study, judgement.findings, record, std::move(found));
  judgement.extension = extensionOf(study, judgement.findings);
  judgement.predictions = record.predictions;
  judgement.pins = record.pins;
  judgement.explanations = record.explanations;
  judgement.unreachable = record.unreachable;
  judgement.pass_names = PassNames(scheduleOf(study), record.passes);
  judgement.claim = study.shape == Shape::Pair ? claimOf(study, judgement.findings, record.unreachable)
                                               : shapeClaimOf(study, judgement.findings, judgement.shape);
  judgement.claim.safety = safetyText(study, judgement.shape, record, judgement.steps);
  if (judgement.is_sealed) seal(judgement);
  // Doubts come worst first, accepted ones last.
  const bool has_stop = !judgement.doubts.empty() && judgement.doubts.front().rank == DoubtRank::Stop &&
                        !judgement.doubts.front().accepted_because;
  judgement.claim.is_stopped = judgement.claim.has_result && has_stop;
  if (judgement.claim.is_stopped && !judgement.claim.safety.empty()) judgement.claim.safety = safetyWhileStopped(study);
  return judgement;
}

}  // namespace core
