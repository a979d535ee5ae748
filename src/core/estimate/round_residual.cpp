#include "core/estimate/round_residual.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <vector>

#include <boost/math/distributions/chi_squared.hpp>

namespace core {
namespace {

/// The complete rounds: a row a round, a column a configuration.
struct Table {
  std::vector<ConfigurationId> configurations;
  std::vector<std::vector<double>> rows;
};

Table completeRounds(std::span<const VisitValues> visits) {
  std::set<ConfigurationId> measured;
  std::map<int, std::map<ConfigurationId, std::vector<double>>> rounds;
  for (const VisitValues& visit : visits) {
    if (visit.values.empty()) continue;
    measured.insert(visit.configuration);
    if (visit.round >= 1 && visit.tells_spread)
      rounds[visit.round][visit.configuration].push_back(meanOf(visit.values));
  }
  Table table{{measured.begin(), measured.end()}, {}};
  for (const auto& [number, round] : rounds) {
    if (round.size() != measured.size()) continue;
    std::vector<double>& row = table.rows.emplace_back();
    for (const auto& [configuration, means] : round) row.push_back(meanOf(means));
  }
  return table;
}

std::vector<double> columnOf(const Table& table, std::size_t column) {
  std::vector<double> values;
  for (const auto& row : table.rows) values.push_back(row[column]);
  return values;
}

/// The residuals, a list a configuration.
std::vector<std::vector<double>> residualsOf(const Table& table) {
  std::vector<double> row_means;
  for (const auto& row : table.rows) row_means.push_back(meanOf(row));
  const double middle = meanOf(row_means);
  std::vector<std::vector<double>> residuals;
  for (std::size_t column = 0; column < table.configurations.size(); ++column) {
    std::vector<double> values = columnOf(table, column);
    const double mean = meanOf(values);
    for (std::size_t row = 0; row < values.size(); ++row) values[row] += middle - mean - row_means[row];
    residuals.push_back(std::move(values));
  }
  return residuals;
}

double squares(std::span<const double> values) {
  double sum = 0;
  for (const double value : values) sum += value * value;
  return sum;
}

// Nothing where a configuration has no spread at all: then values were rounded, and the test would say anything.
std::optional<double> bartlett(const std::vector<std::vector<double>>& groups) {
  const auto k = static_cast<double>(groups.size());
  const double df = static_cast<double>(groups.front().size()) - 1;
  double pooled = 0;
  double logs = 0;
  for (const auto& group : groups) {
    const double variance = squares(group) / df;
    if (isWithoutSpread(std::sqrt(variance))) return std::nullopt;
    pooled += variance / k;
    logs += std::log(variance) / k;
  }
  const double statistic = k * df * (std::log(pooled) - logs) / (1 + (k + 1) / (3 * k * df));
  return boost::math::cdf(boost::math::complement(boost::math::chi_squared(k - 1), std::max(0.0, statistic)));
}

}  // namespace

std::optional<RoundResidual> roundResidual(std::span<const VisitValues> visits) {
  const Table table = completeRounds(visits);
  if (table.configurations.size() < 3 || table.rows.size() < 2) return std::nullopt;
  const auto residuals = residualsOf(table);
  RoundResidual residual;
  residual.rounds = static_cast<int>(table.rows.size());
  residual.df = static_cast<double>((table.rows.size() - 1) * (table.configurations.size() - 1));
  double sum = 0;
  std::size_t widest = 0;
  for (std::size_t i = 0; i < residuals.size(); ++i) {
    sum += squares(residuals[i]);
    if (squares(residuals[i]) > squares(residuals[widest])) widest = i;
  }
  residual.sd = std::sqrt(sum / residual.df);
  residual.widest = table.configurations[widest];
  residual.p_alike = bartlett(residuals);
  return residual;
}

Contrast withSharedSpread(const Contrast& own, double own_df, int rounds, Weights weights,
                          const RoundResidual& residual, double confidence, double size) {
  const double more = std::clamp(residual.df - own_df, 0.0, own_df);
  if (more <= 0 || !std::isfinite(own.difference)) return own;
  const double own_se = own.se.value_or(0);
  double shared = 0;
  for (const double weight : weights) shared += residual.sd * residual.sd * weight * weight / rounds;
  const double df = more + own_df;
  return contrastFrom(own.difference, std::sqrt((more * shared + own_df * own_se * own_se) / df), df, confidence, size);
}

}  // namespace core
