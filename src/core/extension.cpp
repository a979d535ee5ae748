#include "core/extension.h"

#include <algorithm>
#include <cmath>

#include <boost/math/distributions/students_t.hpp>

#include "core/percent.h"

namespace core {
namespace {

constexpr double kShareOfThreshold = 0.6;
constexpr int kMostRounds = 1000;

struct Headline {
  Contrast contrast;
  EstimatorChoice design;
};

// The suite's own value where there is one, else the one case's.
std::optional<Headline> headlineOf(const Findings& findings) {
  if (findings.suite) return Headline{findings.suite->summary.this_suite, findings.suite->summary.design};
  if (findings.cases.size() != 1 || !findings.cases.front().effect || !findings.cases.front().effect->is_log)
    return std::nullopt;
  return Headline{findings.cases.front().effect->contrast, findings.cases.front().effect->design};
}

double halfWidth(double sd, int rounds, double confidence) {
  const boost::math::students_t t(rounds - 1);
  return boost::math::quantile(t, (1 + confidence) / 2) * sd / std::sqrt(rounds);
}

}  // namespace

std::optional<Extension> extensionOf(const Study& study, const Findings& findings) {
  const auto headline = headlineOf(findings);
  if (!headline || !findings.is_plan_complete || study.plan.extension_rounds > 0 || study.is_null ||
      !study.plan.looks.empty() || study.plan.order != Order::BalancedShuffle ||
      headline->design.estimator != Estimator::Rounds || !headline->contrast.inference || !headline->contrast.se)
    return std::nullopt;
  const int rounds = headline->design.complete_rounds;
  const double sd = *headline->contrast.se * std::sqrt(rounds);
  const double wanted = kShareOfThreshold * lnOfPercent(study.notice_threshold_percent);
  const double now = halfWidth(sd, rounds, study.confidence);
  if (wanted <= 0 || now <= wanted) return std::nullopt;
  for (int more = 1; more <= kMostRounds; ++more)
    if (const double then = halfWidth(sd, rounds + more, study.confidence); then <= wanted)
      return Extension{more, percentOfLn(now), percentOfLn(then)};
  return std::nullopt;
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
  return more;
}

}  // namespace core
