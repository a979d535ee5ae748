#include "core/estimate/quality.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include <boost/math/distributions/students_t.hpp>

#include "core/values/median.h"

namespace core {
namespace {

constexpr std::size_t kFewestForOdd = 5;
constexpr double kNoDeviation = 1e-14;

// About one clean group in twenty has a pass beyond it.
double cutFor(std::size_t n) {
  if (n == 5) return 8.0;
  if (n <= 7) return 5.9;
  if (n <= 9) return 5.1;
  if (n <= 11) return 4.7;
  return n <= 19 ? 4.4 : 4.0;
}

std::optional<int> visitOfAll(const std::vector<std::size_t>& flagged, std::span<const int> visits) {
  if (flagged.size() < 2 || visits.empty() || std::set(visits.begin(), visits.end()).size() < 2) return std::nullopt;
  const int visit = visits[flagged.front()];
  const bool is_one = std::all_of(flagged.begin(), flagged.end(), [&](std::size_t i) { return visits[i] == visit; });
  return is_one ? std::optional(visit) : std::nullopt;
}

struct VisitMean {
  int level = 0;
  double hours = 0;
  double y = 0;
  int passes = 0;
};

std::vector<VisitMean> visitMeans(std::span<const TimedPass> passes) {
  std::map<std::pair<int, int>, VisitMean> by_visit;  // a visit at another level is no visit of this one
  for (const TimedPass& pass : passes) {
    VisitMean& visit = by_visit[{pass.level, pass.visit}];
    visit.level = pass.level;
    visit.hours += pass.hours;
    visit.y += std::log(pass.value);
    ++visit.passes;
  }
  std::vector<VisitMean> means;
  for (auto& [number, visit] : by_visit) {
    visit.hours /= visit.passes;
    visit.y /= visit.passes;
    means.push_back(visit);
  }
  return means;
}

/// The visits of one level, in the middle.
struct LevelMean {
  double hours = 0;
  double y = 0;
  int visits = 0;
};

std::map<int, LevelMean> levelMeans(const std::vector<VisitMean>& visits) {
  std::map<int, LevelMean> levels;
  for (const VisitMean& visit : visits) {
    LevelMean& level = levels[visit.level];
    level.hours += visit.hours;
    level.y += visit.y;
    ++level.visits;
  }
  for (auto& [number, level] : levels) {
    level.hours /= level.visits;
    level.y /= level.visits;
  }
  return levels;
}

}  // namespace

OddPasses oddPasses(std::span<const double> values, std::span<const int> visits) {
  OddPasses odd;
  if (values.size() < kFewestForOdd) return odd;
  odd.is_assessed = true;
  std::vector<double> y;
  for (const double value : values) y.push_back(std::log(value));
  odd.median = medianOf(y);
  std::vector<double> deviations;
  for (const double one : y) deviations.push_back(std::abs(one - odd.median));
  odd.mad = medianOf(deviations);
  odd.mean_ad = meanOf(deviations);
  odd.cut = cutFor(values.size());
  odd.measure = odd.mad >= kNoDeviation       ? OddPasses::Measure::MedianDeviation
                : odd.mean_ad >= kNoDeviation ? OddPasses::Measure::MeanDeviation
                                              : OddPasses::Measure::None;
  const double per_unit = odd.measure == OddPasses::Measure::MedianDeviation ? 0.6745 / odd.mad
                          : odd.measure == OddPasses::Measure::MeanDeviation ? 0.7979 / odd.mean_ad
                                                                             : 0;
  for (std::size_t i = 0; i < y.size(); ++i) {
    odd.modified_z.push_back(per_unit * (y[i] - odd.median));
    if (std::abs(odd.modified_z.back()) > odd.cut) odd.flagged.push_back(i);
  }
  odd.odd_visit = visitOfAll(odd.flagged, visits);
  return odd;
}

Drift driftOf(std::span<const TimedPass> passes, int baseline, int changed, double confidence) {
  const std::vector<VisitMean> visits = visitMeans(passes);
  std::map<int, LevelMean> levels = levelMeans(visits);
  Drift drift;
  const auto [first, last] = std::minmax_element(
      passes.begin(), passes.end(), [](const TimedPass& a, const TimedPass& b) { return a.hours < b.hours; });
  if (first != passes.end()) drift.span_hours = last->hours - first->hours;
  drift.visits = static_cast<int>(visits.size());
  drift.exposure_hours = levels[changed].hours - levels[baseline].hours;
  drift.df = drift.visits - static_cast<int>(levels.size()) - 1;
  // With the level as a factor, the slope is that of the deviations from each level's own middle.
  double time_squared = 0;
  double product = 0;
  for (const VisitMean& visit : visits) {
    const double hours = visit.hours - levels[visit.level].hours;
    time_squared += hours * hours;
    product += hours * (visit.y - levels[visit.level].y);
  }
  if (drift.df < 1 || time_squared <= 1e-12) return drift;
  drift.is_estimable = true;
  drift.per_hour = product / time_squared;
  double residual = 0;
  double largest = 0;
  for (const VisitMean& visit : visits) {
    const double deviation = visit.y - levels[visit.level].y;
    largest = std::max(largest, std::abs(deviation));
    residual += std::pow(deviation - drift.per_hour * (visit.hours - levels[visit.level].hours), 2);
  }
  if (isWithoutSpread(largest)) {  // what never moved did not drift; rounding would say anything
    drift.per_hour = 0;
    return drift;
  }
  drift.se = std::sqrt(residual / drift.df / time_squared);
  const boost::math::students_t t(drift.df);
  const double half = boost::math::quantile(t, (1 + confidence) / 2) * drift.se;
  drift.lo = drift.per_hour - half;
  drift.hi = drift.per_hour + half;
  drift.p = drift.se > 0 ? 2 * boost::math::cdf(boost::math::complement(t, std::abs(drift.per_hour / drift.se))) : 0;
  drift.is_flagged = drift.p < 0.05;
  return drift;
}

WarmUp warmUpOf(std::span<const std::vector<double>> visits, double confidence) {
  std::vector<double> differences;
  for (const std::vector<double>& values : visits) {
    if (values.size() < 2) continue;
    double others = 0;
    for (std::size_t i = 1; i < values.size(); ++i) others += std::log(values[i]);
    differences.push_back(std::log(values.front()) - others / static_cast<double>(values.size() - 1));
  }
  WarmUp warm_up;
  warm_up.visits_used = static_cast<int>(differences.size());
  if (differences.empty()) return warm_up;
  warm_up.difference = meanOf(differences);
  if (differences.size() < 2) return warm_up;
  if (const auto contrast = pairedDifference(differences, confidence)) {
    warm_up.se = contrast->se;
    warm_up.inference = contrast->inference;
  }
  return warm_up;
}

}  // namespace core
