#include "core/contrast.h"

#include <boost/math/distributions/students_t.hpp>
#include <cmath>
#include <numeric>
#include <string>

namespace core {
namespace {

// Below this the differences between passes are the metric's rounding, not its spread.
constexpr double kNoSpread = 1e-12;

Status checkConfidence(double confidence) {
  if (confidence > 0 && confidence < 1) return Done{};
  return Error{ErrorKind::OutOfRange, "the confidence must lie between 0 and 1", "confidence", "Use 0.95 for 95 %"};
}

Status checkValues(std::span<const double> values, const char* side) {
  if (values.empty())
    return Error{ErrorKind::TooFew, "there is no value at this level", side, "Run or import at least one pass there"};
  for (std::size_t i = 0; i < values.size(); ++i)
    if (!std::isfinite(values[i]))
      return Error{ErrorKind::OutOfRange, "a value is not a finite number",
                   std::string(side) + ", value " + std::to_string(i + 1), "Correct it or leave the pass out"};
  return Done{};
}

Status checkGroups(std::span<const double> baseline, std::span<const double> changed, double confidence) {
  if (auto status = checkConfidence(confidence); !status) return status;
  if (auto status = checkValues(baseline, "baseline"); !status) return status;
  return checkValues(changed, "changed");
}

Contrast pointOnly(double difference) { return {difference, std::nullopt, std::nullopt, NoInterval::TooFewPasses}; }

}  // namespace

double meanOf(std::span<const double> values) {
  return std::accumulate(values.begin(), values.end(), 0.0) / static_cast<double>(values.size());
}

double sumOfSquares(std::span<const double> values) {
  const double mean = meanOf(values);
  double sum = 0;
  for (const double v : values) sum += (v - mean) * (v - mean);
  return sum;
}

Contrast contrastFrom(double difference, double se, double df, double confidence) {
  if (se < kNoSpread) return {difference, 0.0, std::nullopt, NoInterval::NoSpread};
  const boost::math::students_t distribution(df);
  Inference inference;
  inference.df = df;
  inference.t = difference / se;
  // Upper tails by complement: 1 - cdf would lose every digit of a small p.
  inference.p = 2 * cdf(complement(distribution, std::abs(inference.t)));
  inference.t_quantile = quantile(complement(distribution, (1 - confidence) / 2));
  inference.lo = difference - inference.t_quantile * se;
  inference.hi = difference + inference.t_quantile * se;
  return {difference, se, inference, std::nullopt};
}

Result<Contrast> welchDifference(std::span<const double> baseline, std::span<const double> changed, double confidence,
                                 const std::optional<FlipSd>& flip) {
  if (auto status = checkGroups(baseline, changed, confidence); !status) return status.error();
  const double difference = meanOf(changed) - meanOf(baseline);
  if (baseline.size() < 2 || changed.size() < 2) return pointOnly(difference);

  const auto part = [](std::span<const double> values) {
    const auto n = static_cast<double>(values.size());
    return sumOfSquares(values) / (n - 1) / n;
  };
  const double a = part(baseline);
  const double b = part(changed);
  double variance = a + b;
  double satterthwaite =
      a * a / static_cast<double>(baseline.size() - 1) + b * b / static_cast<double>(changed.size() - 1);
  if (flip && flip->is_visit_means) {
    const double se = flip->sd * std::sqrt(1 / flip->visits_baseline + 1 / flip->visits_changed);
    return contrastFrom(difference, se, flip->df, confidence);
  }
  if (flip) {
    const double f = flip->sd * flip->sd * (1 / flip->visits_baseline + 1 / flip->visits_changed);
    variance += f;
    satterthwaite += f * f / flip->df;
  }
  const double se = std::sqrt(variance);
  return contrastFrom(difference, se, se < kNoSpread ? 1 : variance * variance / satterthwaite, confidence);
}

Result<Contrast> pooledDifference(std::span<const double> baseline, std::span<const double> changed,
                                  double confidence) {
  if (auto status = checkGroups(baseline, changed, confidence); !status) return status.error();
  const double difference = meanOf(changed) - meanOf(baseline);
  const double df = static_cast<double>(baseline.size() + changed.size()) - 2;
  if (df < 1) return pointOnly(difference);
  const double variance = (sumOfSquares(baseline) + sumOfSquares(changed)) / df;
  const double se =
      std::sqrt(variance * (1.0 / static_cast<double>(baseline.size()) + 1.0 / static_cast<double>(changed.size())));
  return contrastFrom(difference, se, df, confidence);
}

Result<Contrast> pairedDifference(std::span<const double> differences, double confidence) {
  if (auto status = checkConfidence(confidence); !status) return status.error();
  if (auto status = checkValues(differences, "rounds"); !status) return status.error();
  const double difference = meanOf(differences);
  if (differences.size() < 2) return pointOnly(difference);
  const auto n = static_cast<double>(differences.size());
  return contrastFrom(difference, std::sqrt(sumOfSquares(differences) / (n - 1) / n), n - 1, confidence);
}

}  // namespace core
