#include "core/estimate/quality.h"

#include <algorithm>
#include <array>
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

/// The largest modified z that so many of clean groups of a size have.
constexpr std::array kOddShares{0.2, 0.1, 0.05, 0.02, 0.01, 0.005, 0.002, 0.001, 0.0005, 0.0002};
struct OddRow {
  std::size_t n = 0;
  std::array<double, kOddShares.size()> z;
};
constexpr std::array kOddRows{OddRow{5, {3.58, 5.40, 7.92, 12.95, 18.58, 26.40, 41.62, 60.45, 85.18, 130.44}},
                              OddRow{6, {3.10, 4.20, 5.54, 7.82, 10.08, 12.92, 17.75, 22.37, 27.96, 38.04}},
                              OddRow{7, {3.24, 4.41, 5.85, 8.31, 10.73, 13.72, 19.05, 24.00, 30.76, 43.39}},
                              OddRow{8, {3.03, 3.91, 4.92, 6.52, 7.96, 9.69, 12.41, 14.85, 17.66, 21.95}},
                              OddRow{9, {3.11, 4.03, 5.08, 6.74, 8.26, 10.02, 12.79, 15.37, 18.33, 24.12}},
                              OddRow{10, {2.99, 3.75, 4.57, 5.81, 6.89, 8.16, 10.05, 11.66, 13.67, 16.52}},
                              OddRow{11, {3.06, 3.83, 4.67, 5.94, 7.04, 8.28, 10.18, 11.89, 13.81, 16.59}},
                              OddRow{12, {2.98, 3.66, 4.37, 5.42, 6.29, 7.27, 8.74, 10.01, 11.50, 13.76}},
                              OddRow{13, {3.02, 3.71, 4.43, 5.48, 6.38, 7.37, 8.86, 10.11, 11.48, 13.62}},
                              OddRow{14, {2.97, 3.59, 4.23, 5.13, 5.88, 6.70, 7.87, 8.82, 9.91, 11.67}},
                              OddRow{15, {3.01, 3.63, 4.27, 5.19, 5.93, 6.76, 7.95, 8.99, 10.13, 11.74}},
                              OddRow{16, {2.98, 3.54, 4.13, 4.94, 5.61, 6.32, 7.33, 8.19, 9.01, 10.44}},
                              OddRow{18, {2.98, 3.51, 4.05, 4.80, 5.38, 6.03, 6.97, 7.72, 8.60, 9.66}},
                              OddRow{20, {2.98, 3.49, 3.99, 4.68, 5.22, 5.78, 6.60, 7.25, 7.91, 8.83}},
                              OddRow{25, {3.01, 3.48, 3.93, 4.54, 5.02, 5.52, 6.20, 6.74, 7.35, 8.24}},
                              OddRow{30, {3.01, 3.43, 3.84, 4.37, 4.79, 5.22, 5.78, 6.22, 6.68, 7.25}},
                              OddRow{40, {3.05, 3.42, 3.78, 4.24, 4.59, 4.95, 5.40, 5.74, 6.12, 6.57}}};

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

double oddP(std::size_t n, double largest_z) {
  const OddRow* row = &kOddRows.front();
  for (const OddRow& one : kOddRows)
    if (one.n <= n) row = &one;
  if (largest_z <= row->z.front()) return 1;
  std::size_t i = 1;
  while (i + 1 < row->z.size() && largest_z > row->z[i]) ++i;
  const double slope = std::log(kOddShares[i] / kOddShares[i - 1]) / std::log(row->z[i] / row->z[i - 1]);
  return kOddShares[i - 1] * std::pow(largest_z / row->z[i - 1], slope);
}

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
  odd.p = oddP(values.size(), largestOf(odd.modified_z));
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
  const double inverse = 1.0 / levels[baseline].visits + 1.0 / levels[changed].visits;
  const double reach = drift.exposure_hours * drift.exposure_hours / time_squared;
  drift.adjusted_se = std::sqrt(residual / drift.df * (inverse + reach));
  const boost::math::students_t t(drift.df);
  const double half = boost::math::quantile(t, (1 + confidence) / 2) * drift.se;
  drift.lo = drift.per_hour - half;
  drift.hi = drift.per_hour + half;
  drift.p = drift.se > 0 ? 2 * boost::math::cdf(boost::math::complement(t, std::abs(drift.per_hour / drift.se))) : 0;
  drift.is_flagged = drift.p < 0.05;
  return drift;
}

Contrast withDriftOut(const Contrast& change, const Drift& drift, double confidence) {
  return contrastFrom(change.difference - drift.per_hour * drift.exposure_hours, drift.adjusted_se, drift.df,
                      confidence);
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
