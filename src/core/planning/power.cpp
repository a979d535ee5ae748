#include "core/planning/power.h"

#include <algorithm>
#include <boost/math/distributions/chi_squared.hpp>
#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <boost/math/tools/roots.hpp>
#include <cmath>
#include <cstdint>
#include <map>
#include <tuple>

namespace core {
namespace {

constexpr double kTolerance = 1e-10;

/// The standard error that a study sees, as a share of the true one: its square times df is chi squared.
class SeenSpread {
 public:
  explicit SeenSpread(double df) : df_(df), squared_(df) {}
  double density(double u) const { return u <= 0 ? 0 : 2 * u * df_ * pdf(squared_, u * u * df_); }
  double chanceBelow(double u) const { return u <= 0 ? 0 : cdf(squared_, u * u * df_); }
  // Outside twelve standard deviations nothing is left to add.
  double least() const { return std::max(0.0, 1 - kDeviations / std::sqrt(2 * df_)); }
  double most() const { return 1 + kDeviations / std::sqrt(2 * df_); }

 private:
  static constexpr double kDeviations = 12;
  double df_;
  boost::math::chi_squared squared_;
};

template <typename Function>
double integral(const Function& function, double from, double to) {
  return from < to ? boost::math::quadrature::gauss_kronrod<double, 31>::integrate(function, from, to, 8, kTolerance)
                   : 0;
}

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
  // Of a normal estimate, this many of its standard errors from where the interval ends at 0, nothing is left in doubt.
  constexpr double kCertain = 9;
  const SeenSpread spread(df);
  const double low = std::max((ncp - kCertain) / t_critical, spread.least());
  const double high = std::min((ncp + kCertain) / t_critical, spread.most());
  if (high <= low) return ncp > t_critical ? 1 : 0;
  const auto found = [&](double u) {
    return spread.density(u) * 0.5 * std::erfc((t_critical * u - ncp) / std::sqrt(2.0));
  };
  return std::clamp(spread.chanceBelow(low) + integral(found, low, high), 0.0, 1.0);
}

double chanceOfExcludingZero(double ncp, double df, double t_critical) {
  return std::min(1.0, chanceOfLyingAbove(ncp, df, t_critical) + chanceOfLyingAbove(-ncp, df, t_critical));
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
  const SeenSpread spread(df);
  // The error function: 2 cdf - 1 would lose every digit of a small chance, and the integral would never settle.
  const auto within = [&](double u) { return spread.density(u) * std::erf((bound - t_critical * u) / std::sqrt(2.0)); };
  return integral(within, spread.least(), std::min(spread.most(), bound / t_critical));
}

}  // namespace core
