#include "core/extension.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include <boost/math/distributions/students_t.hpp>

#include "core/percent.h"

namespace core {
namespace {

constexpr double kShareOfThreshold = 0.6;
constexpr int kMost = 1000;

double quantile(double df, double confidence) {
  return boost::math::quantile(boost::math::students_t(df), (1 + confidence) / 2);
}

double variance(std::span<const double> values) {
  return sumOfSquares(values) / static_cast<double>(values.size() - 1);
}

// Half-widths with `more` rounds, visits or passes at each level.
using HalfWidth = std::function<double(int more)>;

HalfWidth ofRounds(double sd, int rounds, double confidence) {
  return [=](int more) {
    const int n = rounds + more;
    return quantile(n - 1, confidence) * sd / std::sqrt(n);
  };
}

HalfWidth ofVisits(const Effect& effect, double confidence) {
  const auto a = static_cast<double>(effect.baseline_units.size());
  const auto b = static_cast<double>(effect.changed_units.size());
  const double sd = std::sqrt((sumOfSquares(effect.baseline_units) + sumOfSquares(effect.changed_units)) / (a + b - 2));
  return [=](int more) {
    return quantile(a + b + 2 * more - 2, confidence) * sd * std::sqrt(1 / (a + more) + 1 / (b + more));
  };
}

// The variances and what flips add are held; more passes narrow only the passes' own part.
HalfWidth ofPasses(const Effect& effect, double confidence) {
  const double variance_a = variance(effect.baseline_units);
  const double variance_b = variance(effect.changed_units);
  const auto count_a = static_cast<double>(effect.baseline_units.size());
  const auto count_b = static_cast<double>(effect.changed_units.size());
  const std::optional<FlipSd> flip = effect.flip;
  return [=](int more) {
    const double a = variance_a / (count_a + more);
    const double b = variance_b / (count_b + more);
    const double c = flip ? flip->sd * flip->sd * (1 / flip->visits_baseline + 1 / flip->visits_changed) : 0;
    const double sum = a + b + c;
    const double parts = a * a / (count_a + more - 1) + b * b / (count_b + more - 1) + (flip ? c * c / flip->df : 0);
    return quantile(sum * sum / parts, confidence) * std::sqrt(sum);
  };
}

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
  switch (effect.design.estimator) {
    case Estimator::Rounds:
      return sizeOf(ofRounds(std::sqrt(variance(effect.round_differences)),
                             static_cast<int>(effect.round_differences.size()), confidence),
                    threshold_percent);
    case Estimator::Visits: return sizeOf(ofVisits(effect, confidence), threshold_percent);
    case Estimator::Passes: return sizeOf(ofPasses(effect, confidence), threshold_percent);
  }
  return std::nullopt;
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
    size = sizeOf(ofRounds(*suite.this_suite.se * std::sqrt(rounds), rounds, study.confidence),
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
