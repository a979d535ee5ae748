#include "core/estimate/suite.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <set>
#include <string>
#include <utility>

#include <boost/math/distributions/students_t.hpp>

#include "core/estimate/null_study.h"
#include "core/values/percent.h"

namespace core {
namespace {

// ln values with the direction taken out, so that more is always better.
std::vector<VisitValues> onImprovementScale(std::vector<VisitValues> visits, Direction direction) {
  for (VisitValues& visit : visits)
    for (double& value : visit.values) value = signOf(direction) * std::log(value);
  return visits;
}
std::vector<VisitValues> onImprovementScale(const SuiteCase& suite_case) {
  return onImprovementScale(suite_case.visits, suite_case.direction);
}

// The suite's own visits: those in which every case has a counted pass, with the mean over cases of the visit means.
std::vector<VisitValues> completeVisits(std::span<const std::vector<VisitValues>> cases) {
  using Key = std::pair<ConfigurationId, int>;  // a visit at another level is no visit of this one
  std::map<Key, VisitValues> by_number;
  std::map<Key, std::size_t> seen;
  for (const auto& visits : cases) {
    for (const VisitValues& visit : visits) {
      if (visit.values.empty()) continue;
      auto& own =
          by_number
              .try_emplace({visit.configuration, visit.visit},
                           VisitValues{visit.configuration, visit.visit, visit.round, {0.0}, 0, visit.tells_spread})
              .first->second;
      own.values.front() += meanOf(visit.values) / static_cast<double>(cases.size());
      ++seen[{visit.configuration, visit.visit}];
    }
  }
  std::vector<VisitValues> complete;
  for (const auto& [number, visit] : by_number)
    if (seen[number] == cases.size()) complete.push_back(visit);
  return complete;
}

std::set<std::pair<ConfigurationId, int>> keysOf(std::span<const VisitValues> visits) {
  std::set<std::pair<ConfigurationId, int>> keys;
  for (const VisitValues& visit : visits) keys.emplace(visit.configuration, visit.visit);
  return keys;
}

// The design that all cases share: the fewest passes of any case decide whether there is an interval.
EstimatorChoice sharedDesign(std::span<const VisitValues> suite_visits, std::span<const std::vector<VisitValues>> cases,
                             Weights weights) {
  const auto complete = keysOf(suite_visits);
  EstimatorChoice narrowest;
  for (std::size_t i = 0; i < cases.size(); ++i) {
    std::vector<VisitValues> kept = cases[i];
    for (VisitValues& visit : kept)
      if (!complete.contains({visit.configuration, visit.visit})) visit.values.clear();
    const EstimatorChoice choice = chooseEstimator(kept, weights);
    const auto fewest = [&](const EstimatorChoice& of) {
      int passes = std::numeric_limits<int>::max();
      for (std::size_t c = 0; c < weights.size(); ++c)
        if (weights[c] != 0) passes = std::min(passes, of.passes[c]);
      return passes;
    };
    if (i == 0 || fewest(choice) < fewest(narrowest)) narrowest = choice;
  }
  return narrowest;
}

// Passes design: the cases' own parts s^2/n add up over k^2. What flipping adds moves all cases at once: it comes on
// top once, undivided, or the null study's whole visit means stand for both.
Result<Contrast> passesContrast(std::span<const std::vector<VisitValues>> cases, Weights weights, double confidence,
                                const std::optional<FlipSd>& flip = {}) {
  const auto k = static_cast<double>(cases.size());
  double difference = 0;
  double variance = 0;
  double satterthwaite = 0;
  for (const auto& visits : cases) {
    const Units units = unitsOf(visits, weights, Estimator::Passes);
    for (std::size_t i = 0; i < units.at.size(); ++i) {
      if (weights[i] == 0) continue;
      const std::vector<double>& y = units.at[i];
      const auto n = static_cast<double>(y.size());
      difference += weights[i] * meanOf(y) / k;
      if (n < 2) continue;
      const double part = weights[i] * weights[i] * sumOfSquares(y) / (n - 1) / n / (k * k);
      variance += part;
      satterthwaite += part * part / (n - 1);
    }
  }
  if (flip) {
    const double flips = flip->varianceOf(weights);
    if (flip->is_visit_means) return contrastFrom(difference, std::sqrt(flips), flip->df, confidence);
    variance += flips;
    satterthwaite += flips * flips / flip->df;
  }
  const double se = std::sqrt(variance);
  return contrastFrom(difference, se, satterthwaite > 0 ? variance * variance / satterthwaite : 1, confidence);
}

// The suite's own value in each visit of the null study, and what of its spread is the passes' own.
std::optional<NullStudy> suiteNullStudy(std::span<const SuiteCase> cases) {
  const auto k = static_cast<double>(cases.size());
  const std::size_t visits = cases.front().null_visits.size();
  std::vector<double> means(visits, 0.0);
  NullStudy own;
  double of_passes = 0;
  double of_passes_df = 0;
  for (const SuiteCase& suite_case : cases) {
    const auto noise = nullStudy(suite_case.null_visits);
    if (!noise || suite_case.null_visits.size() != visits) return std::nullopt;
    for (std::size_t v = 0; v < visits; ++v) {
      double sum = 0;
      for (const double value : suite_case.null_visits[v]) sum += std::log(value);
      means[v] += signOf(suite_case.direction) * sum / static_cast<double>(suite_case.null_visits[v].size()) / k;
    }
    if (&suite_case == &cases.front())
      own.same_passes_everywhere = noise->same_passes_everywhere;
    else if (noise->same_passes_everywhere != own.same_passes_everywhere)
      own.same_passes_everywhere.reset();
    if (!noise->pass_sd) continue;
    const double part = *noise->pass_sd * *noise->pass_sd / noise->passes_per_visit / (k * k);
    of_passes += part;
    of_passes_df += part * part / noise->pass_df;
  }
  own.visits = static_cast<int>(visits);
  const double visit_variance = sumOfSquares(means) / own.visitDf();
  own.visit_sd = std::sqrt(visit_variance);
  takeFlips(own, of_passes, of_passes_df);
  return own;
}

// What the null study says of the suite's flips: nothing where it lacks a case, or is too short.
std::optional<FlipSd> suiteFlip(std::span<const SuiteCase> cases, std::span<const std::vector<VisitValues>> counted,
                                Weights weights) {
  if (cases.front().null_visits.empty()) return std::nullopt;
  const auto own = suiteNullStudy(cases);
  if (!own) return std::nullopt;
  std::optional<FlipSd> flip = flipSdFrom(*own, counted.front(), weights);
  for (const auto& visits : counted)  // whole visit means serve only where every visit of every case is alike
    if (const auto of_case = flipSdFrom(*own, visits, weights); flip && of_case && !of_case->is_visit_means)
      flip = of_case;
  return flip;
}

Result<Contrast> ownContrast(const EstimatorChoice& design, std::span<const VisitValues> suite_visits,
                             std::span<const std::vector<VisitValues>> cases, Weights weights, double confidence,
                             const std::optional<FlipSd>& flip = {}) {
  if (design.estimator == Estimator::Passes && design.has_interval)
    return passesContrast(cases, weights, confidence, flip);
  const bool is_point = design.estimator == Estimator::Passes;
  Units units = unitsOf(suite_visits, weights, is_point ? Estimator::Visits : design.estimator);
  if (is_point)  // two values of their own have no spread, and say so
    for (std::vector<double>& at : units.at)
      if (!at.empty()) at = {meanOf(at)};
  return contrastOf(units, weights, confidence);
}

// Typed values are never known better than their last digit; the cases' roundings are independent of each other.
double suiteRounding(std::span<const SuiteCase> cases, Weights weights) {
  double sum = 0;
  for (const SuiteCase& suite_case : cases) {
    const double error = roundingError(suite_case.visits, true, weights) / static_cast<double>(cases.size());
    sum += error * error;
  }
  return std::sqrt(sum);
}

// Where no value differs from another, the design alone says how much the suite rests on.
double designDf(const EstimatorChoice& design, std::span<const VisitValues> suite_visits,
                std::span<const std::vector<VisitValues>> cases, Weights weights) {
  if (design.estimator != Estimator::Passes) return unitsOf(suite_visits, weights, design.estimator).designDf(weights);
  double df = 0;
  for (const auto& visits : cases) df += unitsOf(visits, weights, Estimator::Passes).designDf(weights);
  return df;
}

// How the suite's own values scatter at all configurations; nothing where the plan leaves each contrast its own spread.
std::optional<RoundResidual> suiteResidual(std::span<const SuiteCase> cases) {
  std::vector<std::vector<VisitValues>> scaled;
  for (const SuiteCase& one : cases) {
    if (one.everywhere.empty()) return std::nullopt;
    std::vector<VisitValues> positive = one.everywhere;
    std::erase_if(positive, [](const VisitValues& visit) {
      return std::any_of(visit.values.begin(), visit.values.end(), [](double value) { return !(value > 0); });
    });
    scaled.push_back(onImprovementScale(std::move(positive), one.direction));
  }
  return roundResidual(completeVisits(scaled));
}

// Source  prediction interval of one further value from a normal sample.
std::optional<NextCase> nextCaseOf(std::span<const double> case_effects, double confidence) {
  constexpr std::size_t kFewest = 5;
  const auto k = static_cast<double>(case_effects.size());
  if (case_effects.size() < kFewest) return std::nullopt;
  NextCase next;
  next.mean = meanOf(case_effects);
  next.df = k - 1;
  next.sd = std::sqrt(sumOfSquares(case_effects) / next.df * (1 + 1 / k));
  if (isWithoutSpread(next.sd) || !std::isfinite(next.sd)) return std::nullopt;
  const double half = tQuantile(next.df, confidence) * next.sd;
  next.lo = next.mean - half;
  next.hi = next.mean + half;
  return next;
}

// A sample of cases can never tell more about all such cases than about itself.
void takeCasesLikeThese(SuiteSummary& summary, std::span<const double> case_effects, double confidence) {
  summary.next_case = nextCaseOf(case_effects, confidence);
  auto sample = pairedDifference(case_effects, confidence);
  summary.cases_like_these = sample ? *sample : Contrast{};
  const auto& own = summary.this_suite.inference;
  const auto& wide = summary.cases_like_these.inference;
  if (own && wide && own->hi - own->lo > wide->hi - wide->lo) {
    summary.cases_like_these = summary.this_suite;
    summary.is_widened = true;
  }
}

}  // namespace

double NextCase::shareAbove(double bound) const {
  return boost::math::cdf(boost::math::complement(boost::math::students_t(df), (bound - mean) / sd));
}

std::vector<VisitValues> suiteVisits(std::span<const SuiteCase> cases) {
  std::vector<std::vector<VisitValues>> scaled;
  for (const SuiteCase& suite_case : cases) scaled.push_back(onImprovementScale(suite_case));
  return completeVisits(scaled);
}

Result<SuiteSummary> summarizeSuite(std::span<const SuiteCase> cases, double confidence, Weights weights) {
  if (cases.empty()) return Error{ErrorKind::TooFew, "the suite has no cases", "suite", "Add a case"};
  std::vector<std::vector<VisitValues>> scaled;
  for (const SuiteCase& suite_case : cases) {
    for (const VisitValues& visit : suite_case.visits)
      for (const double value : visit.values)
        if (!(value > 0))
          return Error{ErrorKind::OutOfRange, "a suite needs values above 0",
                       "case " + std::to_string(scaled.size() + 1), "Leave the case out of the suite"};
    scaled.push_back(onImprovementScale(suite_case));
  }
  const std::vector<VisitValues> suite_visits = completeVisits(scaled);
  const Units own_units = unitsOf(suite_visits, weights, Estimator::Visits);
  for (std::size_t i = 0; i < weights.size(); ++i)
    if (weights[i] != 0 && own_units.at[i].empty())
      return Error{ErrorKind::TooFew,
                   weights.size() == 2 ? "no visit is complete for every case at both levels"
                                       : "no visit is complete for every case at one of the levels",
                   "suite", "Run the missing passes"};

  SuiteSummary summary;
  summary.design = sharedDesign(suite_visits, scaled, weights);
  const auto complete = keysOf(suite_visits);
  for (auto& visits : scaled)
    std::erase_if(visits, [&](const VisitValues& visit) {
      return !complete.contains({visit.configuration, visit.visit});
    });

  if (summary.design.estimator == Estimator::Passes && summary.design.has_interval)
    summary.flip = suiteFlip(cases, scaled, weights);
  auto own = ownContrast(summary.design, suite_visits, scaled, weights, confidence, summary.flip);
  if (!own) return own.error();
  if (const auto residual = summary.design.estimator == Estimator::Rounds ? suiteResidual(cases) : std::nullopt) {
    summary.shared = SharedSpread{
        *residual, *own,
        withSharedSpread(*own, designDf(summary.design, suite_visits, scaled, weights), summary.design.complete_rounds,
                         weights, *residual, confidence, own_units.size())};
    own = summary.shared->mixed;
  }
  summary.rounding = suiteRounding(cases, weights);
  summary.this_suite =
      withRounding(*own, summary.rounding, designDf(summary.design, suite_visits, scaled, weights), confidence);

  std::vector<double> case_effects;
  for (std::size_t i = 0; i < cases.size(); ++i) {
    auto effect = ownContrast(summary.design, completeVisits(std::span(&scaled[i], 1)), std::span(&scaled[i], 1),
                              weights, confidence);
    if (!effect) return effect.error();
    case_effects.push_back(effect->difference);
    summary.arithmetic_mean_percent += percentOfLn(effect->difference) / static_cast<double>(cases.size());
  }
  takeCasesLikeThese(summary, case_effects, confidence);
  return summary;
}

Result<SuiteSummary> summarizeSeparateVisits(std::span<const Contrast> cases, double confidence) {
  if (cases.empty()) return Error{ErrorKind::TooFew, "the suite has no cases", "suite", "Add a case"};
  const auto k = static_cast<double>(cases.size());
  SuiteSummary summary;
  std::vector<double> effects;
  double variance = 0;
  double satterthwaite = 0;
  bool has_interval = true;
  for (const Contrast& one : cases) {
    effects.push_back(one.difference);
    summary.arithmetic_mean_percent += percentOfLn(one.difference) / k;
    has_interval = has_interval && one.inference;
    if (!one.inference) continue;
    const double part = *one.se * *one.se / (k * k);
    variance += part;
    satterthwaite += part * part / one.inference->df;
  }
  summary.this_suite =
      has_interval ? contrastFrom(meanOf(effects), std::sqrt(variance), variance * variance / satterthwaite, confidence)
                   : Contrast{meanOf(effects), {}, {}, NoInterval::TooFewPasses};
  takeCasesLikeThese(summary, effects, confidence);
  return summary;
}

}  // namespace core
