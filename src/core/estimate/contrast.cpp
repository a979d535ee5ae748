#include "core/estimate/contrast.h"

#include <algorithm>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>
#include <numeric>
#include <string>

namespace core {
namespace {

// Below this the differences between passes are the metric's rounding, not its spread.
constexpr double kNoSpread = 1e-12;

}  // namespace

Status checkConfidence(double confidence) {
  if (confidence > 0 && confidence < 1) return Done{};
  return Error{ErrorKind::OutOfRange, "the confidence must lie between 0 and 1", "confidence", "Use 0.95 for 95 %"};
}

double FlipSd::varianceOf(std::span<const double> weights) const {
  double sum = 0;
  for (std::size_t i = 0; i < weights.size(); ++i)
    if (weights[i] != 0) sum += weights[i] * weights[i] / visits[i];
  return sd * sd * sum;
}

double meanOf(std::span<const double> values) {
  return std::accumulate(values.begin(), values.end(), 0.0) / static_cast<double>(values.size());
}

double sumOfSquares(std::span<const double> values) {
  const double mean = meanOf(values);
  double sum = 0;
  for (const double v : values) sum += (v - mean) * (v - mean);
  return sum;
}

bool isWithoutSpread(double deviation, double size) { return std::abs(deviation) < kNoSpread * std::max(1.0, size); }

double tQuantile(double df, double confidence) {
  return quantile(complement(boost::math::students_t(df), (1 - confidence) / 2));
}

Contrast contrastFrom(double difference, double se, double df, double confidence, double size) {
  if (isWithoutSpread(se, size)) return {difference, 0.0, std::nullopt, NoInterval::NoSpread};
  if (!std::isfinite(se) || !(df > 0)) return {difference, std::nullopt, std::nullopt, NoInterval::BeyondNumbers};
  const boost::math::students_t distribution(df);
  Inference inference;
  inference.df = df;
  inference.t = difference / se;
  // Upper tails by complement: 1 - cdf would lose every digit of a small p.
  inference.p = 2 * cdf(complement(distribution, std::abs(inference.t)));
  inference.t_quantile = tQuantile(df, confidence);
  inference.lo = difference - inference.t_quantile * se;
  inference.hi = difference + inference.t_quantile * se;
  return {difference, se, inference, std::nullopt};
}

double largestOf(std::span<const double> values) {
  double largest = 0;
  for (const double value : values) largest = std::max(largest, std::abs(value));
  return largest;
}

Result<Contrast> pairedDifference(std::span<const double> differences, double confidence, double size) {
  if (auto status = checkConfidence(confidence); !status) return status.error();
  if (differences.empty())
    return Error{ErrorKind::TooFew, "there is no value to compare", "rounds", "Run or import at least one pass"};
  for (std::size_t i = 0; i < differences.size(); ++i)
    if (!std::isfinite(differences[i]))
      return Error{ErrorKind::OutOfRange, "a value is not a finite number", "rounds, value " + std::to_string(i + 1),
                   "Correct it or leave the pass out"};
  const double difference = meanOf(differences);
  if (differences.size() < 2) return Contrast{difference, std::nullopt, std::nullopt, NoInterval::TooFewPasses};
  const auto n = static_cast<double>(differences.size());
  return contrastFrom(difference, std::sqrt(sumOfSquares(differences) / (n - 1) / n), n - 1, confidence, size);
}

}  // namespace core
