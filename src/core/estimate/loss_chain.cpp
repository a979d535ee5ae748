#include "core/estimate/loss_chain.h"

#include <cmath>

namespace core {
namespace {

// Variances and covariance of a step and of the total.
struct Moments {
  double step = 0;
  double total = 0;
  double both = 0;
};

double covariance(std::span<const double> a, std::span<const double> b) {
  double sum = 0;
  for (std::size_t i = 0; i < a.size(); ++i) sum += (a[i] - meanOf(a)) * (b[i] - meanOf(b));
  return sum / static_cast<double>(a.size() - 1);
}

std::vector<double> differences(const Units& units, std::size_t from, std::size_t to) {
  std::vector<double> result;
  for (std::size_t i = 0; i < units.at[from].size(); ++i) result.push_back(units.at[to][i] - units.at[from][i]);
  return result;
}

// Of means over rounds.
Moments ofRounds(const Units& units, std::size_t step) {
  const auto one = differences(units, step, step + 1);
  const auto all = differences(units, 0, units.at.size() - 1);
  const auto rounds = static_cast<double>(one.size());
  return {covariance(one, one) / rounds, covariance(all, all) / rounds, covariance(one, all) / rounds};
}

// A step shares its ends with the total where it is the first or the last one.
Moments ofUnits(const Units& units, std::size_t step, double variance) {
  const auto part = [&](std::size_t level) { return variance / static_cast<double>(units.at[level].size()); };
  const std::size_t last = units.at.size() - 1;
  return {part(step) + part(step + 1), part(0) + part(last),
          (step == 0 ? part(0) : 0.0) + (step + 1 == last ? part(last) : 0.0)};
}

std::pair<double, double> fieller(double a, double b, const Moments& v, double t) {
  const double t2 = t * t;
  const double middle = a * b - t2 * v.both;
  const double below = b * b - t2 * v.total;
  const double root = std::sqrt(std::max(0.0, middle * middle - below * (a * a - t2 * v.step)));
  return {(middle - root) / below, (middle + root) / below};
}

}  // namespace

Result<LossChain> lossChainOf(const Units& units, double confidence) {
  LossChain chain;
  const std::size_t last = units.at.size() - 1;
  double variance = 0;
  if (units.estimator == Estimator::Rounds) {
    const auto total = pairedDifference(differences(units, 0, last), confidence);
    if (!total) return total.error();
    chain.total = *total;
  } else {
    double squares = 0;
    double df = 0;
    for (const auto& level : units.at) {
      squares += sumOfSquares(level);
      df += static_cast<double>(level.size()) - 1;
    }
    if (df < 1) return Error{ErrorKind::TooFew, "no configuration has two passes", "chain", "Run each at least twice"};
    variance = squares / df;
    const double se = std::sqrt(variance * (1.0 / static_cast<double>(units.at.front().size()) +
                                            1.0 / static_cast<double>(units.at.back().size())));
    chain.total = contrastFrom(units.meanAt(last) - units.meanAt(0), se, df, confidence);
  }
  const auto& inference = chain.total.inference;
  chain.is_clear_of_zero = inference && (inference->lo > 0 || inference->hi < 0);
  for (std::size_t step = 0; step < last; ++step) {
    LossStep one;
    one.difference = units.meanAt(step + 1) - units.meanAt(step);
    one.share = one.difference / chain.total.difference;
    if (chain.is_clear_of_zero)
      one.interval =
          fieller(one.difference, chain.total.difference,
                  units.estimator == Estimator::Rounds ? ofRounds(units, step) : ofUnits(units, step, variance),
                  inference->t_quantile);
    chain.steps.push_back(one);
  }
  return chain;
}

}  // namespace core
