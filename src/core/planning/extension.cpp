#include "core/planning/extension.h"

#include <algorithm>
#include <cmath>

#include "core/estimate/half_width.h"
#include "core/values/percent.h"

namespace core {
namespace {

constexpr double kShareOfThreshold = 0.6;
constexpr int kMost = 1000;

ExtensionSize sizeOf(const HalfWidth& half_width, double threshold_percent) {
  ExtensionSize size{kShareOfThreshold * lnOfPercent(threshold_percent), half_width(0), {}, {}};
  for (int more = 0; more <= kMost && !size.further; ++more) {
    if (half_width(more) > size.goal) continue;
    size.further = more;
    size.then = half_width(more);
  }
  return size;
}

}  // namespace

std::optional<ExtensionSize> extensionSize(const Effect& effect, double threshold_percent, double confidence) {
  if (!effect.contrast.inference) return std::nullopt;
  return sizeOf(halfWidthOf(effect, confidence), threshold_percent);
}

std::optional<Extension> extensionOf(const Study& study, const Findings& findings) {
  if (!findings.is_plan_complete || study.plan.extension_rounds > 0 || study.is_null || !study.plan.looks.empty() ||
      study.plan.order != Order::BalancedShuffle || study.notice_threshold_percent <= 0)
    return std::nullopt;
  std::optional<ExtensionSize> size;
  if (findings.suite && findings.suite->summary.design.estimator == Estimator::Rounds) {
    const SuiteSummary& suite = findings.suite->summary;
    if (!suite.this_suite.inference || !suite.this_suite.se) return std::nullopt;
    const int rounds = suite.design.complete_rounds;
    size = sizeOf(halfWidthOfRounds(*suite.this_suite.se * std::sqrt(rounds), rounds, study.confidence),
                  study.notice_threshold_percent);
  } else if (findings.cases.size() == 1 && findings.cases.front().effect && findings.cases.front().effect->is_log &&
             findings.cases.front().effect->design.estimator == Estimator::Rounds) {
    size = extensionSize(*findings.cases.front().effect, study.notice_threshold_percent, study.confidence);
  }
  if (!size || !size->further || *size->further == 0) return std::nullopt;
  return Extension{*size->further, percentOfLn(size->now), percentOfLn(*size->then)};
}

Study extended(const Study& study, const Extension& extension) {
  Study more = study;
  more.plan.rounds += extension.rounds;
  more.plan.extension_rounds = extension.rounds;
  const std::vector<Side> drawn = drawRounds(extension.rounds, study.plan.seed + 1);
  more.plan.drawn.insert(more.plan.drawn.end(), drawn.begin(), drawn.end());
  return more;
}

Study withOneMoreRound(const Study& study) {
  Study more = study;
  const auto first = std::count(study.plan.drawn.begin(), study.plan.drawn.end(), Side::Baseline);
  const auto other = static_cast<std::ptrdiff_t>(study.plan.drawn.size()) - first;
  more.plan.drawn.push_back(first == other  ? drawRounds(1, study.plan.seed + study.plan.rounds).front()
                            : first < other ? Side::Baseline
                                            : Side::Changed);
  ++more.plan.rounds;
  if (!more.plan.looks.empty()) more.plan.looks.back() = more.plan.rounds;  // the last look is at the end
  return more;
}

}  // namespace core
