#include "core/planning/planner.h"

#include <algorithm>
#include <boost/math/distributions/chi_squared.hpp>
#include <boost/math/distributions/normal.hpp>
#include <boost/math/distributions/students_t.hpp>
#include <boost/math/tools/roots.hpp>
#include <cmath>
#include <cstdint>
#include <map>
#include <utility>
#include <vector>

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
  return {std::sqrt(2 * visit / n), design == PlanDesign::Rounds ? noise.df_share * (n - 1) : 2 * n - 2};
}

/// What the noise may be, each as likely as the others: an sd that few passes told is not known.
std::vector<NoiseFloor> possible(PlanDesign design, const NoiseFloor& noise) {
  if (noise.spread_df <= 0 || usesNull(design, noise)) return {noise};  // a null study's own t knows how little it saw
  constexpr int kAsLikely = 12;
  const boost::math::chi_squared spread(noise.spread_df);
  std::vector<NoiseFloor> all;
  for (int i = 0; i < kAsLikely; ++i) {
    const double scale = std::sqrt(noise.spread_df / quantile(spread, (i + 0.5) / kAsLikely));
    all.push_back(noise);
    all.back().pass_sd *= scale;
    if (noise.null) all.back().flip_sd *= scale;  // a pilot saw no flip
  }
  return all;
}

/// The mean of a chance over what the noise may be.
template <class Chance>
double meanChance(PlanDesign design, int size, int passes_per_visit, const NoiseFloor& noise, const Chance& chance) {
  const auto all = possible(design, noise);
  double sum = 0;
  for (const NoiseFloor& one : all) sum += chance(precisionOf(design, size, passes_per_visit, one));
  return sum / static_cast<double>(all.size());
}

double powerOf(PlanDesign design, int size, int passes_per_visit, const NoiseFloor& noise, const PlanAim& aim) {
  return meanChance(design, size, passes_per_visit, noise, [&](const Precision& precision) {
    return chanceOfExcludingZero(aim.delta() / precision.se, precision.df,
                                 tQuantile(precision.df, aim.adjustedConfidence()));
  });
}

// P(|T| < t sqrt(v / (v + f))): how often an interval that knows nothing of the flips holds the truth.
double intervalRight(double se, double df, double flip_sd, double confidence) {
  const double v = se * se;
  const double f = 2 * flip_sd * flip_sd;
  const boost::math::students_t distribution(df);
  return 1 - 2 * cdf(complement(distribution, tQuantile(df, confidence) * std::sqrt(v / (v + f))));
}

// Where the spread is not known, the effect whose chance reaches the power on the average; it begins with the one that
// would do if it were.
double foundOnAverage(PlanDesign design, int size, int passes_per_visit, const NoiseFloor& noise, const PlanAim& aim,
                      double from) {
  const auto miss = [&](double effect) {
    return meanChance(design, size, passes_per_visit, noise,
                      [&](const Precision& one) {
                        return chanceOfExcludingZero(effect / one.se, one.df,
                                                     tQuantile(one.df, aim.adjustedConfidence()));
                      }) -
           aim.power;
  };
  double high = from;
  while (miss(high) < 0) high *= 1.5;
  std::uintmax_t steps = 60;
  constexpr int kBits = 12;  // nobody reads more than two digits of it
  const auto root =
      boost::math::tools::toms748_solve(miss, from / 2, high, boost::math::tools::eps_tolerance<double>(kBits), steps);
  return (root.first + root.second) / 2;
}

}  // namespace

double PlanAim::delta() const { return unit ? unit->threshold : lnOfPercent(threshold_percent); }

int leastSize(PlanDesign design) { return design == PlanDesign::Rounds ? 3 : 2; }

PlanValue planValue(PlanDesign design, int size, int passes_per_visit, const NoiseFloor& noise, const PlanAim& aim) {
  const Precision precision = precisionOf(design, size, passes_per_visit, noise);
  const double delta = aim.delta();
  const double t = tQuantile(precision.df, aim.adjustedConfidence());
  PlanValue value;
  value.se = precision.se;
  value.df = precision.df;
  value.half_width = t * precision.se;
  value.median_half_width = value.half_width * std::sqrt(median(boost::math::chi_squared(precision.df)) / precision.df);
  value.ncp = delta / precision.se;
  const auto chance = [&](double (*of)(double, double, double)) {
    return meanChance(design, size, passes_per_visit, noise,
                      [&](const Precision& one) { return of(delta / one.se, one.df, t); });
  };
  value.power = chance(chanceOfExcludingZero);
  value.chance_gain = chance(chanceOfLyingAbove);
  value.chance_nothing_matters = chance(chanceOfLyingWithin);
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
  const double z_critical = quantile(complement(normal, (1 - aim.adjustedConfidence()) / 2));
  const double least_ncp = aim.power > 0.5 ? z_critical + quantile(normal, aim.power) - 0.01 : 0;
  const double delta = aim.delta();
  for (int size = leastSize(design); size <= kMostSize; ++size) {
    const Precision precision = precisionOf(design, size, passes_per_visit, noise);
    if (delta / precision.se >= least_ncp && powerOf(design, size, passes_per_visit, noise, aim) >= aim.power)
      return size;
  }
  return std::nullopt;
}

double smallestDetectable(PlanDesign design, int size, int passes_per_visit, const NoiseFloor& noise,
                          const PlanAim& aim) {
  const Precision precision = precisionOf(design, size, passes_per_visit, noise);
  const double t = tQuantile(precision.df, aim.adjustedConfidence());
  double found = effectFoundWith(aim.power, precision.df, t) * precision.se;
  if (possible(design, noise).size() > 1 && found > 0)
    found = foundOnAverage(design, size, passes_per_visit, noise, aim, found);
  return aim.unit ? found : percentOfLn(found);
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
