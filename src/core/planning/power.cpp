#include "core/planning/power.h"

#include <algorithm>
#include <boost/math/distributions/chi_squared.hpp>
#include <boost/math/distributions/non_central_t.hpp>
#include <boost/math/distributions/students_t.hpp>
#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <boost/math/tools/roots.hpp>
#include <cmath>
#include <cstdint>
#include <map>
#include <tuple>

namespace core {
namespace {

using boost::math::cdf;
using boost::math::complement;

// Beyond this the noncentral t is all on one side of any quantile, and its series costs more than it tells.
constexpr double kFarAway = 60;

double searchedEffect(double chance, double df, double t_critical) {
  const auto miss = [&](double ncp) { return chanceOfExcludingZero(ncp, df, t_critical) - chance; };
  if (miss(0) >= 0) return 0;  // nothing at all is found as often as that
  double high = t_critical + 2;
  while (miss(high) < 0) high *= 2;
  std::uintmax_t steps = 200;
  const auto root =
      boost::math::tools::toms748_solve(miss, 0.0, high, boost::math::tools::eps_tolerance<double>(40), steps);
  return (root.first + root.second) / 2;
}

}  // namespace

double chanceOfLyingAbove(double ncp, double df, double t_critical) {
  if (ncp - t_critical > kFarAway) return 1;
  return cdf(complement(boost::math::non_central_t(df, ncp), t_critical));
}

double chanceOfExcludingZero(double ncp, double df, double t_critical) {
  if (ncp - t_critical > kFarAway) return 1;
  return std::min(1.0, chanceOfLyingAbove(ncp, df, t_critical) + cdf(boost::math::non_central_t(df, ncp), -t_critical));
}

double effectFoundWith(double chance, double df, double t_critical) {
  // Half of what planning takes, and asked for the same designs again at every touch of a plan.
  constexpr std::size_t kMostKnown = 4096;
  thread_local std::map<std::tuple<double, double, double>, double> known;
  const std::tuple asked(chance, df, t_critical);
  if (const auto at = known.find(asked); at != known.end()) return at->second;
  if (known.size() >= kMostKnown) known.clear();
  return known[asked] = searchedEffect(chance, df, t_critical);
}

double chanceOfLyingWithin(double bound, double df, double t_critical) {
  const boost::math::chi_squared spread(df);
  // u is the standard error that a study sees, as a share of the true one; its square times df is chi squared.
  const auto density = [&](double u) {
    const double x = u * u * df;
    const double room = bound - t_critical * u;
    if (room <= 0 || x <= 0) return 0.0;
    // The error function: 2 cdf - 1 would lose every digit of a small chance, and the integral would never settle.
    return 2 * u * df * pdf(spread, x) * std::erf(room / std::sqrt(2.0));
  };
  // Outside twelve standard deviations of u nothing is left to add.
  const double width = 12 / std::sqrt(2 * df);
  const double low = std::max(0.0, 1 - width);
  const double high = std::min(1 + width, bound / t_critical);
  if (high <= low) return 0;
  constexpr double kTolerance = 1e-10;
  return boost::math::quadrature::gauss_kronrod<double, 31>::integrate(density, low, high, 8, kTolerance);
}

}  // namespace core
