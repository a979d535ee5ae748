#include "core/suite.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <string>

#include "core/percent.h"

namespace core {
namespace {

// ln values with the direction taken out, so that more is always better.
std::vector<VisitValues> onImprovementScale(const SuiteCase& suite_case) {
  std::vector<VisitValues> visits = suite_case.visits;
  for (VisitValues& visit : visits)
    for (double& value : visit.values) value = signOf(suite_case.direction) * std::log(value);
  return visits;
}

// The suite's own visits: those in which every case has a counted pass, with the mean over cases of the visit means.
std::vector<VisitValues> completeVisits(std::span<const std::vector<VisitValues>> cases) {
  std::map<int, VisitValues> by_number;
  std::map<int, std::size_t> seen;
  for (const auto& visits : cases) {
    for (const VisitValues& visit : visits) {
      if (visit.values.empty()) continue;
      auto& own =
          by_number.try_emplace(visit.visit, VisitValues{visit.side, visit.visit, visit.round, {0.0}}).first->second;
      own.values.front() += meanOf(visit.values) / static_cast<double>(cases.size());
      ++seen[visit.visit];
    }
  }
  std::vector<VisitValues> complete;
  for (const auto& [number, visit] : by_number)
    if (seen[number] == cases.size()) complete.push_back(visit);
  return complete;
}

// The design that all cases share: the fewest passes of any case decide whether there is an interval.
EstimatorChoice sharedDesign(std::span<const VisitValues> suite_visits,
                             std::span<const std::vector<VisitValues>> cases) {
  std::set<int> complete;
  for (const VisitValues& visit : suite_visits) complete.insert(visit.visit);
  EstimatorChoice narrowest;
  for (std::size_t i = 0; i < cases.size(); ++i) {
    std::vector<VisitValues> kept = cases[i];
    for (VisitValues& visit : kept)
      if (!complete.contains(visit.visit)) visit.values.clear();
    const EstimatorChoice choice = chooseEstimator(kept);
    const bool is_fewer = std::min(choice.passes_baseline, choice.passes_changed) <
                          std::min(narrowest.passes_baseline, narrowest.passes_changed);
    if (i == 0 || is_fewer) narrowest = choice;
  }
  return narrowest;
}

std::vector<double> valuesAt(Side side, std::span<const VisitValues> suite_visits) {
  std::vector<double> values;
  for (const VisitValues& visit : suite_visits)
    if (visit.side == side) values.push_back(visit.values.front());
  return values;
}

// Passes design: the cases' own parts s^2/n add up over k^2; what flipping adds is not in it.
Result<Contrast> passesContrast(std::span<const std::vector<VisitValues>> cases, double confidence) {
  const auto k = static_cast<double>(cases.size());
  double difference = 0;
  double variance = 0;
  double satterthwaite = 0;
  for (const auto& visits : cases) {
    double mean[2] = {0, 0};
    for (const Side side : {Side::Baseline, Side::Changed}) {
      std::vector<double> y;
      for (const VisitValues& visit : visits)
        if (visit.side == side) y.insert(y.end(), visit.values.begin(), visit.values.end());
      const auto n = static_cast<double>(y.size());
      mean[static_cast<int>(side)] = meanOf(y);
      if (n < 2) continue;
      const double part = sumOfSquares(y) / (n - 1) / n / (k * k);
      variance += part;
      satterthwaite += part * part / (n - 1);
    }
    difference += (mean[1] - mean[0]) / k;
  }
  const double se = std::sqrt(variance);
  return contrastFrom(difference, se, satterthwaite > 0 ? variance * variance / satterthwaite : 1, confidence);
}

Result<Contrast> ownContrast(const EstimatorChoice& design, std::span<const VisitValues> suite_visits,
                             std::span<const std::vector<VisitValues>> cases, double confidence) {
  if (design.estimator == Estimator::Passes) {
    if (design.has_interval) return passesContrast(cases, confidence);
    // point only: welchDifference on the two means says so itself
    return welchDifference(std::vector{meanOf(valuesAt(Side::Baseline, suite_visits))},
                           std::vector{meanOf(valuesAt(Side::Changed, suite_visits))}, confidence);
  }
  if (design.estimator == Estimator::Visits)
    return pooledDifference(valuesAt(Side::Baseline, suite_visits), valuesAt(Side::Changed, suite_visits), confidence);
  std::map<int, std::vector<double>> sides[2];
  for (const VisitValues& visit : suite_visits)
    sides[static_cast<int>(visit.side)][visit.round].push_back(visit.values.front());
  std::vector<double> differences;
  for (const auto& [round, baseline] : sides[0])
    if (const auto changed = sides[1].find(round); changed != sides[1].end())
      differences.push_back(meanOf(changed->second) - meanOf(baseline));
  return pairedDifference(differences, confidence);
}

// A sample of cases can never tell more about all such cases than about itself.
void takeCasesLikeThese(SuiteSummary& summary, std::span<const double> case_effects, double confidence) {
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

Result<SuiteSummary> summarizeSuite(std::span<const SuiteCase> cases, double confidence) {
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
  if (valuesAt(Side::Baseline, suite_visits).empty() || valuesAt(Side::Changed, suite_visits).empty())
    return Error{ErrorKind::TooFew, "no visit is complete for every case at both levels", "suite",
                 "Run the missing passes"};

  SuiteSummary summary;
  summary.design = sharedDesign(suite_visits, scaled);
  std::set<int> complete;
  for (const VisitValues& visit : suite_visits) complete.insert(visit.visit);
  for (auto& visits : scaled)
    std::erase_if(visits, [&](const VisitValues& visit) { return !complete.contains(visit.visit); });

  auto own = ownContrast(summary.design, suite_visits, scaled, confidence);
  if (!own) return own.error();
  summary.this_suite = *own;

  std::vector<double> case_effects;
  for (std::size_t i = 0; i < cases.size(); ++i) {
    auto effect =
        ownContrast(summary.design, completeVisits(std::span(&scaled[i], 1)), std::span(&scaled[i], 1), confidence);
    if (!effect) return effect.error();
    case_effects.push_back(effect->difference);
    summary.arithmetic_mean_percent += percentOfLn(effect->difference) / static_cast<double>(cases.size());
  }
  takeCasesLikeThese(summary, case_effects, confidence);
  return summary;
}

}  // namespace core
