#include "core/planning/extension.h"

#include <algorithm>
#include <cmath>

#include "core/estimate/half_width.h"
#include "core/findings/headline.h"
#include "core/values/percent.h"

namespace core {
namespace {

constexpr double kShareOfThreshold = 0.6;
constexpr int kMost = 1000;
constexpr int kMostRoundsPlanned = 500;  ///< of a plan

ExtensionSize sizeOf(const HalfWidth& half_width, double threshold_percent) {
  ExtensionSize size{kShareOfThreshold * lnOfPercent(threshold_percent), half_width(0), {}, {}};
  if (size.goal <= 0) return size;
  for (int more = 0; more <= kMost && !size.further; ++more) {
    if (half_width(more) > size.goal) continue;
    size.further = more;
    size.then = half_width(more);
  }
  return size;
}

// Of a pair the level that has begun less often begins.
RoundOrder roundAfter(const Study& study) {
  const Plan& plan = study.plan;
  const RoundOrder drawn = drawRoundsOf(study, plan, 1, plan.seed + plan.rounds).front();
  if (study.shape != Shape::Pair) return drawn;
  const auto first = std::count_if(plan.drawn.begin(), plan.drawn.end(),
                                   [](const RoundOrder& round) { return round.front() == ConfigurationId::Baseline; });
  const auto other = static_cast<std::ptrdiff_t>(plan.drawn.size()) - first;
  if (first == other) return drawn;
  return pairRounds({first < other ? ConfigurationId::Baseline : ConfigurationId::Changed}).front();
}

}  // namespace

std::optional<ExtensionSize> extensionSize(const Effect& effect, double threshold_percent, double confidence) {
  if (!effect.contrast.inference) return std::nullopt;
  return sizeOf(halfWidthOf(effect, confidence), threshold_percent);
}

std::optional<Extension> extensionOf(const Study& study, const Findings& findings) {
  if (!findings.done.is_first_done || study.plan.extension_rounds > 0 || study.plan.second_part_rounds > 0 ||
      study.is_null || !study.plan.looks.empty() || study.plan.order != Order::BalancedShuffle)
    return std::nullopt;
  const auto sized = [&](const Contrast& contrast, const EstimatorChoice& design, double rounding,
                         double threshold_percent) -> std::optional<ExtensionSize> {
    if (!contrast.inference || !contrast.se) return std::nullopt;
    return sizeOf(halfWidthInTwoStages(*contrast.se, contrast.inference->df, design.complete_rounds, rounding,
                                       findings.confidence),
                  threshold_percent);
  };
  std::optional<ExtensionSize> size;
  if (findings.suite && findings.suite->summary.design.estimator == Estimator::Rounds) {
    const SuiteSummary& suite = findings.suite->summary;
    size = sized(suite.this_suite, suite.design, suite.rounding, findings.suite->threshold.gain_percent);
  } else if (const CaseFinding* only = headlineCase(study, findings);
             only && only->effect && only->effect->is_log && only->effect->design.estimator == Estimator::Rounds) {
    size = sized(only->effect->contrast, only->effect->design, only->effect->rounding, only->threshold.gain_percent);
  }
  if (!size || !size->further || *size->further == 0) return std::nullopt;
  if (study.plan.rounds + *size->further > kMostRoundsPlanned) return std::nullopt;  // a new study costs less
  return Extension{*size->further, percentOfLn(size->now), percentOfLn(*size->then)};
}

Study extended(const Study& study, const Extension& extension) {
  Study more = study;
  more.plan.rounds += extension.rounds;
  more.plan.extension_rounds = extension.rounds;
  more.plan.extension_spread = ExtensionSpread::FirstPart;
  const auto drawn = drawRoundsOf(study, study.plan, extension.rounds, study.plan.seed + 1);
  more.plan.drawn.insert(more.plan.drawn.end(), drawn.begin(), drawn.end());
  return more;
}

Study withSecondPart(const Study& study, std::vector<Case> cases, int rounds) {
  Study more = study;
  for (Case& one : cases) {
    one.is_second_part = true;
    more.cases.push_back(std::move(one));
  }
  more.plan.rounds += rounds;
  more.plan.second_part_rounds += rounds;
  const auto drawn = drawRoundsOf(study, study.plan, rounds, study.plan.seed + 2);
  more.plan.drawn.insert(more.plan.drawn.end(), drawn.begin(), drawn.end());
  return more;
}

Study withOneMoreRound(const Study& study) {
  Study more = study;
  more.plan.drawn.push_back(roundAfter(study));
  ++more.plan.rounds;
  if (more.plan.second_part_rounds > 0) ++more.plan.second_part_rounds;
  if (!more.plan.looks.empty()) more.plan.looks.back() = more.plan.rounds;  // the last look is at the end
  return more;
}

}  // namespace core
