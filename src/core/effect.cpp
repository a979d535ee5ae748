#include "core/effect.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/percent.h"

namespace core {
namespace {

struct RoundMeans {
  std::vector<double> baseline;
  std::vector<double> changed;
  [[nodiscard]] bool isComplete() const { return !baseline.empty() && !changed.empty(); }
};

// Visit means by round; a round that lost a visit is incomplete. Two visits at one level in one round (the sheet was
// interrupted and the level set again) count with their mean.
std::map<int, RoundMeans> byRound(std::span<const VisitValues> visits) {
  std::map<int, RoundMeans> rounds;
  for (const VisitValues& visit : visits) {
    if (visit.round < 1) continue;
    RoundMeans& round = rounds[visit.round];
    if (visit.values.empty()) continue;
    (visit.side == Side::Baseline ? round.baseline : round.changed).push_back(meanOf(visit.values));
  }
  return rounds;
}

// A zero or negative value matters only where it is counted: not in a round that is left out.
bool allPositive(std::span<const VisitValues> visits, Estimator estimator) {
  const auto rounds = byRound(visits);
  const auto is_counted = [&](const VisitValues& visit) {
    const auto round = rounds.find(visit.round);
    return estimator != Estimator::Rounds || (round != rounds.end() && round->second.isComplete());
  };
  return std::all_of(visits.begin(), visits.end(), [&](const VisitValues& visit) {
    return !is_counted(visit) || std::all_of(visit.values.begin(), visit.values.end(), [](double v) { return v > 0; });
  });
}

// Values that are not counted may have no logarithm; nobody looks at them.
std::vector<VisitValues> onLnScale(std::span<const VisitValues> visits) {
  std::vector<VisitValues> result(visits.begin(), visits.end());
  for (VisitValues& visit : result)
    for (double& value : visit.values) value = value > 0 ? std::log(value) : 0;
  return result;
}

std::vector<double> unitsAt(Side side, std::span<const VisitValues> visits, Estimator estimator) {
  std::vector<double> units;
  for (const VisitValues& visit : visits) {
    if (visit.side != side || visit.values.empty()) continue;
    if (estimator == Estimator::Visits)
      units.push_back(meanOf(visit.values));
    else
      units.insert(units.end(), visit.values.begin(), visit.values.end());
  }
  return units;
}

void takeRounds(Effect& effect, std::span<const VisitValues> visits) {
  for (const auto& [number, round] : byRound(visits)) {
    if (!round.isComplete()) continue;
    effect.baseline_units.push_back(meanOf(round.baseline));
    effect.changed_units.push_back(meanOf(round.changed));
    effect.round_differences.push_back(effect.changed_units.back() - effect.baseline_units.back());
  }
}

Result<Contrast> contrastOf(const Effect& effect, double confidence) {
  switch (effect.design.estimator) {
    case Estimator::Rounds: return pairedDifference(effect.round_differences, confidence);
    case Estimator::Visits: return pooledDifference(effect.baseline_units, effect.changed_units, confidence);
    case Estimator::Passes: break;
  }
  return welchDifference(effect.baseline_units, effect.changed_units, confidence, effect.flip);
}

// Typed values are never known better than their last digit: the interval is at least as wide as that makes it, and
// stands on that alone where all were typed alike.
Contrast withRounding(const Contrast& contrast, double rounding, const Effect& effect, double confidence) {
  if (rounding <= 0 || !contrast.se || *contrast.se >= rounding) return contrast;
  const auto units = static_cast<double>(effect.baseline_units.size() + effect.changed_units.size());
  const double df = contrast.inference ? contrast.inference->df
                    : effect.design.estimator == Estimator::Rounds
                        ? static_cast<double>(effect.round_differences.size()) - 1
                        : units - 2;
  return contrastFrom(contrast.difference, rounding, df, confidence);
}

PercentChange inPercent(double d, const std::optional<Inference>& inference, double sign) {
  PercentChange change{percentOfLn(sign * d), std::nullopt};
  if (inference) {
    const double one_end = percentOfLn(sign * inference->lo);
    const double other_end = percentOfLn(sign * inference->hi);
    change.interval = PercentInterval{std::min(one_end, other_end), std::max(one_end, other_end)};
  }
  return change;
}

}  // namespace

const char* estimatorName(Estimator estimator) {
  switch (estimator) {
    case Estimator::Passes: return "passes";
    case Estimator::Visits: return "visits";
    case Estimator::Rounds: return "rounds";
  }
  return "unknown";
}

EstimatorChoice chooseEstimator(std::span<const VisitValues> visits) {
  EstimatorChoice choice;
  for (const VisitValues& visit : visits) {
    if (visit.values.empty()) continue;
    const bool is_baseline = visit.side == Side::Baseline;
    (is_baseline ? choice.visits_baseline : choice.visits_changed) += 1;
    (is_baseline ? choice.passes_baseline : choice.passes_changed) += static_cast<int>(visit.values.size());
  }
  for (const auto& [number, round] : byRound(visits))
    (round.isComplete() ? choice.complete_rounds : choice.incomplete_rounds) += 1;
  choice.has_interval = choice.passes_baseline >= 2 && choice.passes_changed >= 2;
  if (!choice.has_interval)
    choice.estimator = Estimator::Passes;
  else if (choice.complete_rounds >= 3)
    choice.estimator = Estimator::Rounds;
  else if (choice.visits_baseline >= 2 && choice.visits_changed >= 2)
    choice.estimator = Estimator::Visits;
  return choice;
}

Result<Effect> effectOf(std::span<const VisitValues> visits, double confidence, const std::optional<FlipSd>& flip,
                        Scale scale) {
  Effect effect;
  effect.design = chooseEstimator(visits);
  effect.is_log = scale == Scale::Ratio && allPositive(visits, effect.design.estimator);
  const std::vector<VisitValues> scaled =
      effect.is_log ? onLnScale(visits) : std::vector<VisitValues>(visits.begin(), visits.end());
  // A flip sd is known on the ln scale only, and says something only where flips were not repeated.
  if (effect.is_log && effect.design.has_interval && effect.design.estimator == Estimator::Passes) effect.flip = flip;
  if (effect.design.estimator == Estimator::Rounds) {
    takeRounds(effect, scaled);
  } else {
    effect.baseline_units = unitsAt(Side::Baseline, scaled, effect.design.estimator);
    effect.changed_units = unitsAt(Side::Changed, scaled, effect.design.estimator);
  }
  auto contrast = contrastOf(effect, confidence);
  if (!contrast) return contrast.error();
  effect.contrast = withRounding(*contrast, roundingError(visits, effect.is_log), effect, confidence);
  const double baseline = meanOf(effect.baseline_units);
  const double changed = meanOf(effect.changed_units);
  effect.level_baseline = effect.is_log ? std::exp(baseline) : baseline;
  effect.level_changed = effect.is_log ? std::exp(changed) : changed;
  return effect;
}

double roundingError(std::span<const VisitValues> visits, bool is_log) {
  double sum = 0;
  for (const Side side : {Side::Baseline, Side::Changed}) {
    double resolution = 0;
    std::vector<double> values;
    for (const VisitValues& visit : visits) {
      if (visit.side != side || visit.values.empty()) continue;
      resolution = std::max(resolution, visit.resolution);
      values.insert(values.end(), visit.values.begin(), visit.values.end());
    }
    if (resolution <= 0) continue;
    const double error = resolution / std::sqrt(12.0) / (is_log ? meanOf(values) : 1);
    sum += error * error;
  }
  return std::sqrt(sum);
}

PercentChange changePercent(const Effect& effect) {
  return inPercent(effect.contrast.difference, effect.contrast.inference, 1);
}

PercentChange improvementPercent(const Effect& effect, Direction direction) {
  return inPercent(effect.contrast.difference, effect.contrast.inference, signOf(direction));
}

std::optional<double> asFps(double value, const std::string& unit) {
  if (unit == "fps" || unit == "FPS") return value;
  if (unit == "ms" && value > 0) return 1000.0 / value;
  return std::nullopt;
}

}  // namespace core
