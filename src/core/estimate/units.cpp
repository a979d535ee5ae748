#include "core/estimate/units.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <string>

namespace core {
namespace {

bool isIn(Weights weights, std::size_t configuration) {
  return configuration < weights.size() && weights[configuration] != 0;
}

// The visit means of one round, by configuration. Two visits to one configuration in one round (the sheet was
// interrupted and the level set again) count with their mean.
struct RoundMeans {
  std::vector<std::vector<double>> at;
  bool tells_spread = true;
};

std::map<int, RoundMeans> byRound(std::span<const VisitValues> visits, Weights weights) {
  std::map<int, RoundMeans> rounds;
  for (const VisitValues& visit : visits) {
    const std::size_t place = placeOf(visit.configuration);
    if (visit.round < 1 || !isIn(weights, place)) continue;
    RoundMeans& round = rounds[visit.round];
    round.at.resize(weights.size());
    round.tells_spread = round.tells_spread && visit.tells_spread;
    if (!visit.values.empty()) round.at[place].push_back(meanOf(visit.values));
  }
  return rounds;
}

bool isComplete(const RoundMeans& round, Weights weights) {
  for (std::size_t i = 0; i < weights.size(); ++i)
    if (isIn(weights, i) && round.at[i].empty()) return false;
  return true;
}

// Does it hold for each configuration of the contrast?
template <class Holds>
bool everywhere(Weights weights, const Holds& holds) {
  for (std::size_t i = 0; i < weights.size(); ++i)
    if (isIn(weights, i) && !holds(i)) return false;
  return true;
}

std::string nameOf(std::size_t configuration) { return "configuration " + std::to_string(configuration + 1); }

Status checkWeights(Weights weights) {
  double sum = 0;
  double largest = 0;
  for (const double weight : weights) {
    sum += weight;
    largest = std::max(largest, std::abs(weight));
  }
  constexpr double kRounding = 1e-9;
  if (std::isfinite(sum) && largest > 0 && std::abs(sum) <= kRounding * largest) return Done{};
  return Error{ErrorKind::OutOfRange, "the weights of a contrast are numbers that sum to 0, not all of them 0",
               "weights", "Give what is compared weights that cancel, such as -1 and 1"};
}

Status checkUnits(const Units& units, Weights weights) {
  if (units.at.size() != weights.size())
    return Error{ErrorKind::OutOfRange, "there are not as many weights as configurations", "weights",
                 "Give each configuration one; 0 leaves it out"};
  std::optional<std::size_t> rounds;
  for (std::size_t i = 0; i < weights.size(); ++i) {
    if (!isIn(weights, i)) continue;
    const std::vector<double>& values = units.at[i];
    if (values.empty())
      return Error{ErrorKind::TooFew, "there is no value at this level", nameOf(i),
                   "Run or import at least one pass there"};
    for (std::size_t unit = 0; unit < values.size(); ++unit)
      if (!std::isfinite(values[unit]))
        return Error{ErrorKind::OutOfRange, "a value is not a finite number",
                     nameOf(i) + ", value " + std::to_string(unit + 1), "Correct it or leave the pass out"};
    if (units.estimator == Estimator::Rounds && rounds.value_or(values.size()) != values.size())
      return Error{ErrorKind::OutOfRange, "the rounds do not all hold every configuration", nameOf(i),
                   "Leave the incomplete rounds out"};
    rounds = values.size();
  }
  return Done{};
}

double weightedMean(const Units& units, Weights weights) {
  double sum = 0;
  for (std::size_t i = 0; i < weights.size(); ++i)
    if (isIn(weights, i)) sum += weights[i] * units.meanAt(i);
  return sum;
}

Contrast ofVisitMeans(const Units& units, Weights weights, double confidence) {
  double squares = 0;
  double df = 0;
  double inverse = 0;
  for (std::size_t i = 0; i < weights.size(); ++i) {
    if (!isIn(weights, i)) continue;
    const auto n = static_cast<double>(units.at[i].size());
    squares += sumOfSquares(units.at[i]);
    df += n - 1;
    inverse += weights[i] * weights[i] / n;
  }
  const double sum = weightedMean(units, weights);
  if (df < 1) return {sum, {}, {}, NoInterval::TooFewPasses};
  return contrastFrom(sum, std::sqrt(squares / df * inverse), df, confidence, units.size());
}

Contrast ofPasses(const Units& units, Weights weights, double confidence, const std::optional<FlipSd>& flip) {
  const double sum = weightedMean(units, weights);
  if (!everywhere(weights, [&](std::size_t i) { return units.at[i].size() >= 2; }))
    return {sum, {}, {}, NoInterval::TooFewPasses};
  const double flips = flip ? flip->varianceOf(weights) : 0;
  if (flip && flip->is_visit_means) return contrastFrom(sum, std::sqrt(flips), flip->df, confidence);
  double variance = flips;
  double satterthwaite = flip ? flips * flips / flip->df : 0;
  for (std::size_t i = 0; i < weights.size(); ++i) {
    if (!isIn(weights, i)) continue;
    const auto n = static_cast<double>(units.at[i].size());
    const double part = weights[i] * weights[i] * sumOfSquares(units.at[i]) / (n - 1) / n;
    variance += part;
    satterthwaite += part * part / (n - 1);
  }
  // Without any spread the degrees of freedom mean nothing, and are not asked for.
  return contrastFrom(sum, std::sqrt(variance), satterthwaite > 0 ? variance * variance / satterthwaite : 1, confidence,
                      units.size());
}

// The spread of the first part alone, where the second was sized by it.
Result<Contrast> ofRounds(const Units& units, Weights weights, double confidence) {
  const std::vector<double> sums = roundSums(units, weights);
  if (!units.spread_rounds) return pairedDifference(sums, confidence, units.size());
  const double mean = meanOf(sums);
  if (*units.spread_rounds < 2) return Contrast{mean, {}, {}, NoInterval::TooFewPasses};
  const double df = static_cast<double>(*units.spread_rounds) - 1;
  const double variance = sumOfSquares(std::span(sums).first(*units.spread_rounds)) / df;
  return contrastFrom(mean, std::sqrt(variance / static_cast<double>(sums.size())), df, confidence, units.size());
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

std::vector<double> differenceWeights(std::size_t configurations, std::size_t from, std::size_t to) {
  std::vector<double> weights(configurations, 0);
  weights[from] -= 1;
  weights[to] += 1;
  return weights;
}

EstimatorChoice chooseEstimator(std::span<const VisitValues> visits, Weights weights) {
  EstimatorChoice choice;
  choice.visits.assign(weights.size(), 0);
  choice.passes.assign(weights.size(), 0);
  for (const VisitValues& visit : visits) {
    const std::size_t place = placeOf(visit.configuration);
    if (visit.values.empty() || place >= weights.size()) continue;
    choice.visits[place] += 1;
    choice.passes[place] += static_cast<int>(visit.values.size());
  }
  for (const auto& [number, round] : byRound(visits, weights))
    (isComplete(round, weights) ? choice.complete_rounds : choice.incomplete_rounds) += 1;
  choice.has_interval = everywhere(weights, [&](std::size_t i) { return choice.passes[i] >= 2; });
  if (!choice.has_interval)
    choice.estimator = Estimator::Passes;
  else if (choice.complete_rounds >= 3)
    choice.estimator = Estimator::Rounds;
  else if (everywhere(weights, [&](std::size_t i) { return choice.visits[i] >= 2; }))
    choice.estimator = Estimator::Visits;
  return choice;
}

double Units::designDf(Weights weights) const {
  double df = 0;
  for (std::size_t i = 0; i < weights.size(); ++i) {
    if (!isIn(weights, i)) continue;
    const double own = static_cast<double>(spread_rounds.value_or(at[i].size())) - 1;
    df = estimator == Estimator::Rounds ? own : df + own;
  }
  return df;
}

double Units::size() const {
  double largest = 0;
  for (const std::vector<double>& values : at) largest = std::max(largest, largestOf(values));
  return largest;
}

bool isCompleteRound(std::span<const VisitValues> visits, int round, Weights weights) {
  const auto rounds = byRound(visits, weights);
  const auto found = rounds.find(round);
  return found != rounds.end() && isComplete(found->second, weights);
}

Units unitsOf(std::span<const VisitValues> visits, Weights weights, Estimator estimator) {
  Units units{estimator, std::vector<std::vector<double>>(weights.size())};
  if (estimator == Estimator::Rounds) {
    std::size_t rounds = 0;
    std::size_t of_spread = 0;
    for (const auto& [number, round] : byRound(visits, weights)) {
      if (!isComplete(round, weights)) continue;
      ++rounds;
      of_spread += round.tells_spread;
      for (std::size_t i = 0; i < weights.size(); ++i)
        if (isIn(weights, i)) units.at[i].push_back(meanOf(round.at[i]));
    }
    if (of_spread < rounds) units.spread_rounds = of_spread;
    return units;
  }
  for (const VisitValues& visit : visits) {
    const std::size_t place = placeOf(visit.configuration);
    if (visit.values.empty() || place >= weights.size()) continue;
    std::vector<double>& at = units.at[place];
    if (estimator == Estimator::Visits)
      at.push_back(meanOf(visit.values));
    else
      at.insert(at.end(), visit.values.begin(), visit.values.end());
  }
  return units;
}

std::vector<double> roundSums(const Units& units, Weights weights) {
  std::vector<double> sums;
  for (std::size_t i = 0; i < weights.size(); ++i) {
    if (!isIn(weights, i)) continue;
    sums.resize(units.at[i].size(), 0);
    for (std::size_t round = 0; round < sums.size(); ++round) sums[round] += weights[i] * units.at[i][round];
  }
  return sums;
}

Result<Contrast> contrastOf(const Units& units, Weights weights, double confidence, const std::optional<FlipSd>& flip) {
  if (auto checked = checkConfidence(confidence); !checked) return checked.error();
  if (auto checked = checkWeights(weights); !checked) return checked.error();
  if (auto checked = checkUnits(units, weights); !checked) return checked.error();
  if (flip && flip->visits.size() < weights.size())
    return Error{ErrorKind::OutOfRange, "of some configurations it is not said how many flips they had", "flips",
                 "Give each configuration its number of visits"};
  switch (units.estimator) {
    case Estimator::Rounds: return ofRounds(units, weights, confidence);
    case Estimator::Visits: return ofVisitMeans(units, weights, confidence);
    case Estimator::Passes: break;
  }
  return ofPasses(units, weights, confidence, flip);
}

}  // namespace core
