#include "core/planning/planner.h"

#include <algorithm>
#include <boost/math/distributions/chi_squared.hpp>
#include <boost/math/distributions/normal.hpp>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>
#include <map>
#include <utility>

#include "core/estimate/contrast.h"
#include "core/planning/power.h"
#include "core/values/percent.h"

namespace core {
namespace {

constexpr int kMostSize = 1000;
// What flipping is taken to add where nobody knows.
constexpr double kAssumedFlipSd = 0.005;

struct Precision {
  double se = 0;
  double df = 1;
};

bool usesNull(PlanDesign design, const NoiseFloor& noise) {
  return design == PlanDesign::Passes && noise.null && noise.null->isUsable();
}

// One visit a level: the passes' own spread, and what a usable null study says of the flips.
Precision ofPasses(double n, const NoiseFloor& noise) {
  const double passes = noise.pass_sd * noise.pass_sd / n;
  const double flips = 2 * noise.flip_sd * noise.flip_sd;
  if (!usesNull(PlanDesign::Passes, noise)) return {std::sqrt(2 * passes), 2 * n - 2};
  const double variance = 2 * passes + flips;
  if (noise.null->passes_per_visit && *noise.null->passes_per_visit == static_cast<int>(n))
    return {std::sqrt(variance), static_cast<double>(noise.null->visits) - 1};
  const double spread = 2 * passes * passes / (n - 1) + flips * flips / noise.null->flip_df;
  return {std::sqrt(variance), variance * variance / spread};
}

Precision precisionOf(PlanDesign design, int size, int passes_per_visit, const NoiseFloor& noise) {
  const double n = std::max(size, leastSize(design));
  if (design == PlanDesign::Passes) return ofPasses(n, noise);
  const double visit = noise.flip_sd * noise.flip_sd + noise.pass_sd * noise.pass_sd / passes_per_visit;
  return {std::sqrt(2 * visit / n), design == PlanDesign::Rounds ? n - 1 : 2 * n - 2};
}

double powerOf(const Precision& precision, const PlanAim& aim) {
  return chanceOfExcludingZero(lnOfPercent(aim.threshold_percent) / precision.se, precision.df,
                               tQuantile(precision.df, aim.confidence));
}

// P(|T| < t sqrt(v / (v + f))): how often an interval that knows nothing of the flips holds the truth.
double intervalRight(double se, double df, double flip_sd, double confidence) {
  const double v = se * se;
  const double f = 2 * flip_sd * flip_sd;
  const boost::math::students_t distribution(df);
  return 1 - 2 * cdf(complement(distribution, tQuantile(df, confidence) * std::sqrt(v / (v + f))));
}

}  // namespace

int leastSize(PlanDesign design) { return design == PlanDesign::Rounds ? 3 : 2; }

PlanValue planValue(PlanDesign design, int size, int passes_per_visit, const NoiseFloor& noise, const PlanAim& aim) {
  const Precision precision = precisionOf(design, size, passes_per_visit, noise);
  const double delta = lnOfPercent(aim.threshold_percent);
  const double t = tQuantile(precision.df, aim.confidence);
  PlanValue value;
  value.se = precision.se;
  value.df = precision.df;
  value.half_width = t * precision.se;
  value.median_half_width = value.half_width * std::sqrt(median(boost::math::chi_squared(precision.df)) / precision.df);
  value.ncp = delta / precision.se;
  value.power = chanceOfExcludingZero(value.ncp, value.df, t);
  value.chance_gain = chanceOfLyingAbove(value.ncp, value.df, t);
  value.chance_nothing_matters = chanceOfLyingWithin(value.ncp, value.df, t);
  value.is_flip_unseen = design == PlanDesign::Passes && !usesNull(design, noise);
  if (value.is_flip_unseen) {
    value.assumed_flip_sd = noise.flip_sd > 0 ? noise.flip_sd : kAssumedFlipSd;
    value.interval_right = intervalRight(value.se, value.df, value.assumed_flip_sd, aim.confidence);
  }
  return value;
}

std::optional<int> smallestSize(PlanDesign design, int passes_per_visit, const NoiseFloor& noise, const PlanAim& aim) {
  // A t test never has more power than the normal one: sizes that even that leaves short are passed over quickly.
  const boost::math::normal normal;
  const double z_critical = quantile(complement(normal, (1 - aim.confidence) / 2));
  const double least_ncp = aim.power > 0.5 ? z_critical + quantile(normal, aim.power) - 0.01 : 0;
  const double delta = lnOfPercent(aim.threshold_percent);
  for (int size = leastSize(design); size <= kMostSize; ++size) {
    const Precision precision = precisionOf(design, size, passes_per_visit, noise);
    if (delta / precision.se >= least_ncp && powerOf(precision, aim) >= aim.power) return size;
  }
  return std::nullopt;
}

double smallestDetectablePercent(PlanDesign design, int size, int passes_per_visit, const NoiseFloor& noise,
                                 const PlanAim& aim) {
  const Precision precision = precisionOf(design, size, passes_per_visit, noise);
  const double ncp = effectFoundWith(aim.power, precision.df, tQuantile(precision.df, aim.confidence));
  return percentOfLn(ncp * precision.se);
}

double planMinutes(int visits, int passes_per_visit, int warm_ups, const BenchTimes& times) {
  return visits * (times.flip + times.settle) + visits * (passes_per_visit + warm_ups) * (times.pass + times.pause);
}

double exposureHours(std::span<const TimedVisit> visits, ConfigurationId from, ConfigurationId to, int warm_ups,
                     const BenchTimes& times) {
  const double each = times.pass + times.pause;
  double at = 0;                                             // minutes since the beginning
  std::map<ConfigurationId, std::pair<double, int>> starts;  // their sum, and how many
  for (const TimedVisit& visit : visits) {
    const double first = at + times.flip + times.settle + warm_ups * each;
    auto& [sum, count] = starts[visit.configuration];
    sum += first + (visit.passes - 1) / 2.0 * each;  // mean start of its counted passes
    ++count;
    at = first + visit.passes * each;
  }
  if (!starts.contains(from) || !starts.contains(to)) return 0;
  constexpr double kMinutesPerHour = 60;
  return (starts[to].first / starts[to].second - starts[from].first / starts[from].second) / kMinutesPerHour;
}

}  // namespace core
