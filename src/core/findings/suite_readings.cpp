#include "core/findings/suite_readings.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <iterator>
#include <numeric>

#include <boost/math/distributions/binomial.hpp>

#include "core/findings/thresholds.h"
#include "core/values/percent.h"

namespace core {
namespace {

PercentChange inPercent(const Contrast& contrast, double factor = 1) {
  PercentChange change{percentOfLn(factor * contrast.difference), std::nullopt};
  if (contrast.inference)
    change.interval =
        PercentInterval{percentOfLn(factor * contrast.inference->lo), percentOfLn(factor * contrast.inference->hi)};
  return change;
}

using Choice = std::function<bool(const NamedSuiteCase&)>;

std::optional<SuiteReading> readingOf(const std::string& name, std::span<const NamedSuiteCase> cases,
                                      const Choice& is_chosen, const Study& study) {
  std::vector<NamedSuiteCase> chosen;
  std::copy_if(cases.begin(), cases.end(), std::back_inserter(chosen), is_chosen);
  std::vector<SuiteCase> values;
  for (const NamedSuiteCase& one : chosen) values.push_back(one.values);
  const auto summary = summarizeSuite(values, study.confidence);
  if (!summary) return std::nullopt;
  SuiteReading reading{name,
                       static_cast<int>(chosen.size()),
                       inPercent(summary->this_suite),
                       thresholdOver(study, frameMsOf(chosen)),
                       {},
                       summary->this_suite};
  reading.verdict = verdictOf(reading.improvement.interval, reading.threshold);
  return reading;
}

// Each different text, in the order of first use.
std::vector<std::string> namesOf(std::span<const NamedSuiteCase> cases, std::string NamedSuiteCase::*text) {
  std::vector<std::string> names;
  for (const NamedSuiteCase& one : cases)
    if (std::find(names.begin(), names.end(), one.*text) == names.end()) names.push_back(one.*text);
  return names;
}

// One reading for each different text; none where all cases share it.
std::vector<SuiteReading> grouped(std::span<const NamedSuiteCase> cases, std::string NamedSuiteCase::*text,
                                  const Study& study) {
  const std::vector<std::string> names = namesOf(cases, text);
  std::vector<SuiteReading> readings;
  if (names.size() < 2 || names.size() == cases.size()) return readings;  // one case each: see below
  for (const std::string& name : names)
    if (auto reading = readingOf(
            name, cases, [&](const NamedSuiteCase& one) { return one.*text == name; }, study))
      readings.push_back(*std::move(reading));
  // Groups of one case each say nothing that the cases do not say.
  if (std::all_of(readings.begin(), readings.end(), [](const SuiteReading& one) { return one.cases < 2; }))
    readings.clear();
  return readings;
}

// Whoever decides asks who gains and who loses, also of a case that stands for its audience alone.
std::vector<SuiteReading> audiencesOf(std::span<const NamedSuiteCase> cases, const Study& study) {
  std::vector<SuiteReading> audiences;
  for (const std::string& name : namesOf(cases, &NamedSuiteCase::audience)) {
    const auto is_of = [&](const NamedSuiteCase& one) { return one.audience == name; };
    if (auto reading = name.empty() ? std::nullopt : readingOf(name, cases, is_of, study))
      audiences.push_back(*std::move(reading));
  }
  if (audiences.size() < 2) audiences.clear();
  return audiences;
}

// The workloads that have both presets, the first one's cases turned around: the mean is half of what the last gained
// more.
std::optional<PresetTrend> trendOf(std::span<const NamedSuiteCase> cases, const Study& study) {
  const auto presets = namesOf(cases, &NamedSuiteCase::preset);
  if (presets.size() < 2) return std::nullopt;
  PresetTrend trend{presets.front(), presets.back(), 0, {}, {}};
  std::vector<SuiteCase> both;
  double first_ln = 0;
  for (const NamedSuiteCase& one : cases)
    for (const NamedSuiteCase& other : cases) {
      if (one.workload != other.workload || one.preset != trend.first || other.preset != trend.last) continue;
      both.push_back(other.values);
      both.push_back(one.values);
      both.back().direction =
          one.values.direction == Direction::HigherIsBetter ? Direction::LowerIsBetter : Direction::HigherIsBetter;
      if (one.improvement) first_ln += lnOfPercent(one.improvement->value);
      ++trend.workloads;
    }
  const auto summary = both.empty() ? Result<SuiteSummary>(Error{}) : summarizeSuite(both, study.confidence);
  if (!summary) return std::nullopt;
  trend.change = inPercent(summary->this_suite, 2);
  const double first = std::exp(first_ln / trend.workloads);
  trend.points.value = first * trend.change.value;
  if (const auto& interval = trend.change.interval)
    trend.points.interval = PercentInterval{first * interval->lo, first * interval->hi};
  return trend;
}

bool doesCross(double with, double without, const NoticeThreshold& threshold) {
  for (const double line : {0.0, threshold.gain_percent, threshold.loss_percent})
    if ((with > line) != (without > line)) return true;
  return false;
}

// May a single case carry the suite? Where its estimate alone leads across 0 or a threshold, or moves it by more than
// half its half-width; whether it does, the verdict without it says.
bool mayBeCarriedBy(const SuiteFinding& suite, const SuiteReading& without) {
  const double with = suite.improvement.value;
  const double now = without.improvement.value;
  const auto& interval = suite.improvement.interval;
  return doesCross(with, now, suite.threshold) ||
         (interval && std::abs(now - with) > (interval->hi - interval->lo) / 4);
}

// Summing up all but one is dear for many cases: first by the estimates alone, then in full where that one may matter.
std::vector<SuiteReading> withoutOne(std::span<const NamedSuiteCase> cases, const SuiteFinding& suite,
                                     const Study& study) {
  std::vector<SuiteReading> carrying;
  if (cases.size() < 3) return carrying;
  std::vector<double> effects;
  for (const NamedSuiteCase& one : cases) effects.push_back(one.improvement ? lnOfPercent(one.improvement->value) : 0);
  const double sum = std::accumulate(effects.begin(), effects.end(), 0.0);
  for (std::size_t i = 0; i < cases.size(); ++i) {
    SuiteReading reading;
    reading.improvement.value = percentOfLn((sum - effects[i]) / static_cast<double>(cases.size() - 1));
    if (!mayBeCarriedBy(suite, reading)) continue;
    const auto without = readingOf(
        "without " + cases[i].title, cases,
        [&](const NamedSuiteCase& one) { return one.case_index != cases[i].case_index; }, study);
    const bool decides = without && (without->verdict != suite.verdict ||
                                     (without->improvement.value > 0) != (suite.improvement.value > 0));
    if (decides) carrying.push_back(*without);
  }
  // What every case would do, none does alone.
  if (carrying.size() == cases.size()) carrying.clear();
  const auto shift = [&](const SuiteReading& one) { return std::abs(one.improvement.value - suite.improvement.value); };
  std::stable_sort(carrying.begin(), carrying.end(),
                   [&](const SuiteReading& a, const SuiteReading& b) { return shift(a) > shift(b); });
  return carrying;
}

void readCases(SuiteReadings& readings, std::span<const NamedSuiteCase> cases) {
  double lowest = INFINITY;
  readings.has_no_loss_anywhere = !cases.empty();
  for (const NamedSuiteCase& one : cases) {
    if (!one.improvement) {
      readings.has_no_loss_anywhere = false;
      continue;
    }
    const PercentChange& improvement = *one.improvement;
    readings.better += improvement.value > 0;
    readings.moved += improvement.value != 0;
    if (!improvement.interval || improvement.interval->lo <= one.threshold.loss_percent)
      readings.has_no_loss_anywhere = false;
    if (improvement.value >= lowest) continue;
    lowest = improvement.value;
    readings.worst_case = one.case_index;
  }
  if (readings.moved == 0) return;
  const boost::math::binomial fair(readings.moved, 0.5);
  const int fewer = std::min(readings.better, readings.moved - readings.better);
  readings.sign_p = std::min(1.0, 2 * cdf(fair, fewer));
}

}  // namespace

bool SuiteReadings::doSyntheticAndRealDisagree() const {
  if (kinds.size() < 2 || !kinds[0].improvement.interval || !kinds[1].improvement.interval) return false;
  const PercentInterval& real = *kinds[0].improvement.interval;
  const PercentInterval& synthetic = *kinds[1].improvement.interval;
  return real.hi < synthetic.lo || synthetic.hi < real.lo;
}

std::vector<std::optional<double>> frameMsOf(std::span<const NamedSuiteCase> cases) {
  std::vector<std::optional<double>> each;
  for (const NamedSuiteCase& one : cases) each.push_back(one.frame_ms);
  return each;
}

SuiteReadings readSuite(std::span<const NamedSuiteCase> cases, const SuiteFinding& suite, const Study& study) {
  SuiteReadings readings;
  readings.presets = grouped(cases, &NamedSuiteCase::preset, study);
  readings.workloads = grouped(cases, &NamedSuiteCase::workload, study);
  const auto is_synthetic = [](const NamedSuiteCase& one) { return one.is_synthetic; };
  const auto synthetic = std::count_if(cases.begin(), cases.end(), is_synthetic);
  if (synthetic > 0 && synthetic < static_cast<std::ptrdiff_t>(cases.size())) {
    if (auto real = readingOf("real work", cases, std::not_fn(is_synthetic), study)) readings.kinds.push_back(*real);
    if (auto made = readingOf("synthetic", cases, is_synthetic, study)) readings.kinds.push_back(*made);
  }
  readings.audiences = audiencesOf(cases, study);
  if (std::any_of(cases.begin(), cases.end(), [](const auto& one) { return one.is_bound_elsewhere; }))
    readings.without_bound_elsewhere = readingOf(
        "without cases that are bound elsewhere", cases, [](const auto& one) { return !one.is_bound_elsewhere; },
        study);
  readings.trend = trendOf(cases, study);
  readings.without_one = withoutOne(cases, suite, study);
  readCases(readings, cases);
  return readings;
}

}  // namespace core
