#include "core/estimate/effect.h"

#include <algorithm>
#include <cmath>
#include <tuple>
#include <utility>

#include "core/values/percent.h"

namespace core {
namespace {

// Values that are not counted may have no logarithm; nobody looks at them.
std::vector<VisitValues> onLnScale(std::span<const VisitValues> visits) {
  std::vector<VisitValues> result(visits.begin(), visits.end());
  for (VisitValues& visit : result)
    for (double& value : visit.values) value = value > 0 ? std::log(value) : 0;
  return result;
}

bool hasZero(const VisitValues& visit) {
  return std::any_of(visit.values.begin(), visit.values.end(), [](double value) { return value <= 0; });
}

// A zero or negative value matters only where it is counted: at a configuration of the contrast, and not in a round
// that is left out.
bool allPositive(std::span<const VisitValues> visits, Weights weights, Estimator estimator) {
  return std::all_of(visits.begin(), visits.end(), [&](const VisitValues& visit) {
    const std::size_t place = placeOf(visit.configuration);
    if (place >= weights.size() || weights[place] == 0) return true;
    return !hasZero(visit) || (estimator == Estimator::Rounds && !isCompleteRound(visits, visit.round, weights));
  });
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

// The others' values count on the scale of the contrast; one of 0 or below among them has none there.
std::optional<RoundResidual> sharedResidual(std::span<const VisitValues> everywhere, const WeightedEffect& effect) {
  if (everywhere.empty() || effect.design.estimator != Estimator::Rounds) return std::nullopt;
  if (effect.is_log && std::any_of(everywhere.begin(), everywhere.end(), hasZero)) return std::nullopt;
  return effect.is_log ? roundResidual(onLnScale(everywhere)) : roundResidual(everywhere);
}

}  // namespace

Result<WeightedEffect> weightedEffectOf(std::span<const VisitValues> visits, Weights weights, double confidence,
                                        const std::optional<FlipSd>& flip, Scale scale,
                                        std::span<const VisitValues> everywhere) {
  WeightedEffect effect;
  effect.design = chooseEstimator(visits, weights);
  const Estimator estimator = effect.design.estimator;
  effect.is_log = scale == Scale::Ratio && allPositive(visits, weights, estimator);
  // A flip sd is known on the ln scale only, and says something only where flips were not repeated.
  if (effect.is_log && effect.design.has_interval && estimator == Estimator::Passes) effect.flip = flip;
  effect.units = effect.is_log ? unitsOf(onLnScale(visits), weights, estimator) : unitsOf(visits, weights, estimator);
  auto contrast = contrastOf(effect.units, weights, confidence, effect.flip);
  if (!contrast) return contrast.error();
  if (const auto residual = sharedResidual(everywhere, effect)) {
    effect.shared =
        SharedSpread{*residual, *contrast,
                     withSharedSpread(*contrast, effect.units.designDf(weights), effect.design.complete_rounds, weights,
                                      *residual, confidence, effect.units.size())};
    contrast = effect.shared->mixed;
  }
  effect.rounding = roundingError(visits, effect.is_log, weights);
  effect.contrast = withRounding(*contrast, effect.rounding, effect.units.designDf(weights), confidence);
  return effect;
}

Result<Effect> effectOf(std::span<const VisitValues> visits, double confidence, const std::optional<FlipSd>& flip,
                        Scale scale, std::span<const VisitValues> everywhere) {
  auto found = weightedEffectOf(visits, kPairWeights, confidence, flip, scale, everywhere);
  if (!found) return found.error();
  Effect effect;
  effect.design = std::move(found->design);
  effect.is_log = found->is_log;
  effect.contrast = found->contrast;
  effect.flip = found->flip;
  effect.rounding = found->rounding;
  effect.shared = found->shared;
  effect.level_baseline = found->levelAt(0);
  effect.level_changed = found->levelAt(1);
  if (found->units.estimator == Estimator::Rounds) effect.round_differences = roundSums(found->units, kPairWeights);
  effect.spread_rounds = found->units.spread_rounds;
  effect.baseline_units = std::move(found->units.at[0]);
  effect.changed_units = std::move(found->units.at[1]);
  return effect;
}

double WeightedEffect::levelAt(std::size_t configuration) const {
  const double mean = units.meanAt(configuration);
  return is_log ? std::exp(mean) : mean;
}

std::optional<double> LevelUnits::mean() const {
  if (values.empty()) return std::nullopt;
  return is_log ? std::exp(meanOf(values)) : meanOf(values);
}

LevelUnits levelUnits(std::span<const VisitValues> visits, ConfigurationId at, Scale scale) {
  std::vector<double> weights(placeOf(at) + 1, 0);
  weights[placeOf(at)] = 1;
  const Estimator estimator = chooseEstimator(visits, weights).estimator;
  const bool is_log = scale == Scale::Ratio && allPositive(visits, weights, estimator);
  Units units = is_log ? unitsOf(onLnScale(visits), weights, estimator) : unitsOf(visits, weights, estimator);
  return {is_log, std::move(units.at[placeOf(at)])};
}

std::optional<std::vector<VisitValues>> positiveVisits(std::span<const VisitValues> visits, Weights weights) {
  if (!allPositive(visits, weights, chooseEstimator(visits, weights).estimator)) return std::nullopt;
  std::vector<VisitValues> positive(visits.begin(), visits.end());
  std::erase_if(positive, hasZero);
  return positive;
}

double roundingError(std::span<const VisitValues> visits, bool is_log, Weights weights) {
  double sum = 0;
  for (std::size_t place = 0; place < weights.size(); ++place) {
    double resolution = 0;
    std::vector<double> values;
    for (const VisitValues& visit : visits) {
      if (placeOf(visit.configuration) != place || visit.values.empty()) continue;
      resolution = std::max(resolution, visit.resolution);
      values.insert(values.end(), visit.values.begin(), visit.values.end());
    }
    if (resolution <= 0) continue;
    const double error = weights[place] * resolution / std::sqrt(12.0) / (is_log ? meanOf(values) : 1);
    sum += error * error;
  }
  return std::sqrt(sum);
}

Contrast withRounding(const Contrast& contrast, double rounding, double design_df, double confidence) {
  if (rounding <= 0 || !contrast.se || *contrast.se >= rounding) return contrast;
  return contrastFrom(contrast.difference, rounding, contrast.inference ? contrast.inference->df : design_df,
                      confidence);
}

Result<Contrast> onImprovementScale(Result<Contrast> contrast, Direction direction) {
  if (!contrast || direction == Direction::HigherIsBetter) return contrast;
  contrast->difference = -contrast->difference;
  if (!contrast->inference) return contrast;
  Inference& inference = *contrast->inference;
  inference.t = -inference.t;
  std::tie(inference.lo, inference.hi) = std::pair{-inference.hi, -inference.lo};
  return contrast;
}

PercentChange percentChangeOf(const Contrast& contrast) {
  return inPercent(contrast.difference, contrast.inference, 1);
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
