#include "core/estimate/transfer_model.h"

#include <boost/math/distributions/students_t.hpp>
#include <cmath>

#include "core/estimate/contrast.h"

namespace core {

std::optional<std::pair<double, double>> TransferModel::predictionInterval(double gb_per_s) const {
  if (!residual_scale) return std::nullopt;
  const double x = 1 / gb_per_s;
  const double of_line = inverse[0][0] + 2 * x * inverse[0][1] + x * x * inverse[1][1];
  const double half = t_quantile * *residual_scale * std::sqrt(of_line + mean_variance);
  return std::pair(predictedMs(gb_per_s) - half, predictedMs(gb_per_s) + half);
}

Result<TransferModel> transferModel(std::span<const LinkLevel> levels, double confidence) {
  double w = 0;
  double wx = 0;
  double wxx = 0;
  double wy = 0;
  double wxy = 0;
  TransferModel model;
  for (const LinkLevel& level : levels) {
    const double weight = 1 / level.variance_of_mean;
    const double x = 1 / level.gb_per_s;
    w += weight;
    wx += weight * x;
    wxx += weight * x * x;
    wy += weight * level.mean_ms;
    wxy += weight * x * level.mean_ms;
    model.mean_variance += level.variance_of_mean / static_cast<double>(levels.size());
  }
  const double determinant = w * wxx - wx * wx;
  if (levels.size() < 2 || !(determinant > 0))
    return Error{ErrorKind::TooFew, "a transfer model needs two different rates", "levels", "Measure at another rate"};
  model.inverse[0][0] = wxx / determinant;
  model.inverse[0][1] = model.inverse[1][0] = -wx / determinant;
  model.inverse[1][1] = w / determinant;
  model.t0_ms = (wxx * wy - wx * wxy) / determinant;
  model.mb_per_frame = (w * wxy - wx * wy) / determinant;
  if (model.t0_ms > 0) model.ceiling_fps = 1000 / model.t0_ms;
  model.df = static_cast<int>(levels.size()) - 2;
  if (model.df < 1) return model;
  double squares = 0;
  for (const LinkLevel& level : levels) {
    const double residual = level.mean_ms - model.predictedMs(level.gb_per_s);
    squares += residual * residual / level.variance_of_mean;
  }
  const double scale = std::sqrt(squares / model.df);
  model.residual_scale = scale;
  model.se_t0 = scale * std::sqrt(model.inverse[0][0]);
  model.se_mb = scale * std::sqrt(model.inverse[1][1]);
  model.t_quantile = quantile(complement(boost::math::students_t(model.df), (1 - confidence) / 2));
  model.t0_interval = {model.t0_ms - model.t_quantile * *model.se_t0, model.t0_ms + model.t_quantile * *model.se_t0};
  model.mb_interval = {model.mb_per_frame - model.t_quantile * *model.se_mb,
                       model.mb_per_frame + model.t_quantile * *model.se_mb};
  return model;
}

PooledLevels pooledLevels(std::span<const std::pair<double, std::vector<double>>> units) {
  PooledLevels pooled;
  double squares = 0;
  double df = 0;
  for (const auto& [rate, values] : units) {
    std::vector<double> logs;
    for (const double value : values) logs.push_back(std::log(value));
    squares += sumOfSquares(logs);
    df += static_cast<double>(values.size()) - 1;
  }
  pooled.ln_sd = df > 0 ? std::sqrt(squares / df) : 0;
  for (const auto& [rate, values] : units) {
    const double mean = meanOf(values);
    const double sd = mean * pooled.ln_sd;
    pooled.levels.push_back({rate, mean, sd * sd / static_cast<double>(values.size())});
  }
  return pooled;
}

}  // namespace core
