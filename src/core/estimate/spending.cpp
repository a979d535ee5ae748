#include "core/estimate/spending.h"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <functional>

#include <boost/math/distributions/normal.hpp>
#include <boost/math/tools/roots.hpp>

namespace core {
namespace {

double above(double z) { return std::erfc(z / std::sqrt(2.0)) / 2; }
double normalQuantile(double beyond) {
  return boost::math::quantile(boost::math::complement(boost::math::normal(), beyond));
}

/// A random walk that has not left its bounds at any look so far: the places where it may stand, evenly spread, and how
/// much of the whole each stands for.
struct Walk {
  std::vector<double> places;
  std::vector<double> weights;
  double at = 0;  ///< the share of the plan that it has seen
};

// Source  composite Simpson's rule
Walk within(double bound, double at, const std::function<double(double)>& density) {
  constexpr std::size_t kSteps = 200;
  const double step = 2 * bound / kSteps;
  Walk walk;
  walk.at = at;
  for (std::size_t i = 0; i <= kSteps; ++i) {
    const double place = -bound + step * static_cast<double>(i);
    const bool is_end = i == 0 || i == kSteps;
    walk.places.push_back(place);
    walk.weights.push_back(density(place) * step / 3 * (is_end ? 1 : i % 2 == 1 ? 4 : 2));
  }
  return walk;
}

double densityAt(const Walk& walk, double place, double at) {
  const double sd = std::sqrt(at - walk.at);
  double sum = 0;
  for (std::size_t i = 0; i < walk.places.size(); ++i) {
    const double z = (place - walk.places[i]) / sd;
    sum += walk.weights[i] * std::exp(-z * z / 2);
  }
  return sum / (sd * std::sqrt(2 * M_PI));
}

// How much of the walk leaves the bounds at its next look.
double leaving(const Walk& walk, double bound, double at) {
  const double sd = std::sqrt(at - walk.at);
  double sum = 0;
  for (std::size_t i = 0; i < walk.places.size(); ++i)
    sum += walk.weights[i] * (above((bound - walk.places[i]) / sd) + above((bound + walk.places[i]) / sd));
  return sum;
}

// The bound, in standard errors, at which as much leaves as may be spent.
double boundFor(const Walk& walk, double at, double spent) {
  constexpr double kFarthest = 40;
  const auto excess = [&](double z) { return leaving(walk, z * std::sqrt(at), at) - spent; };
  if (excess(kFarthest) >= 0) return kFarthest;
  const auto [low, high] =
      boost::math::tools::bisect(excess, 0.0, kFarthest, boost::math::tools::eps_tolerance<double>(24));
  return (low + high) / 2;
}

}  // namespace

std::vector<double> spentConfidences(std::span<const double> fractions, double confidence) {
  constexpr double kHeldBack = 1.0 / 500;
  const double error = 1 - confidence;
  const double z = normalQuantile(error / 4);
  std::vector<double> confidences;
  Walk walk{{0}, {1}, 0};
  double spent = 0;
  for (const double at : fractions) {
    const double by_now = at >= 1 ? error : 4 * above(z / std::sqrt(at));
    double bound = boundFor(walk, at, std::max(by_now - spent, 0.0));
    const double level = std::max(2 * above(bound), kHeldBack * error);
    bound = normalQuantile(level / 2);
    confidences.push_back(1 - level);
    if (at >= 1) break;
    spent += leaving(walk, bound * std::sqrt(at), at);
    const Walk before = walk;
    walk = within(bound * std::sqrt(at), at, [&](double place) { return densityAt(before, place, at); });
  }
  return confidences;
}

}  // namespace core
