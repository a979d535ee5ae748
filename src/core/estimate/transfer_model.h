#pragma once

#include <optional>
#include <span>
#include <utility>
#include <vector>

#include "core/values/result.h"

namespace core {

/// Mean frame time at one rate of a link.
struct LinkLevel {
  double gb_per_s = 0;
  double mean_ms = 0;
  double variance_of_mean = 0;  ///< ms squared
};

/// Mean frame time as a fixed part and data that go over a link: t(b) = t0 + D/b, b in GB/s of 1000 MB.
struct TransferModel {
  double t0_ms = 0;
  double mb_per_frame = 0;
  int df = 0;                         ///< levels - 2; 0: no interval
  std::optional<double> ceiling_fps;  ///< with an endless link; none where t0 is not above 0
  std::optional<double> residual_scale;
  std::optional<double> se_t0;
  std::optional<double> se_mb;
  std::optional<std::pair<double, double>> t0_interval;
  std::optional<std::pair<double, double>> mb_interval;

  /// At a rate that was not measured.
  [[nodiscard]] double predictedMs(double gb_per_s) const { return t0_ms + mb_per_frame / gb_per_s; }
  /// For a new level's mean, whose variance is the mean of the measured ones.
  [[nodiscard]] std::optional<std::pair<double, double>> predictionInterval(double gb_per_s) const;

  double t_quantile = 0;
  double mean_variance = 0;
  double inverse[2][2] = {{0, 0}, {0, 0}};  ///< of the weighted normal equations
};

/// Shapes  at least two different rates. Errors  TooFew
/// Source  weighted least squares, standard errors scaled by the residual; held by known-answer vectors
[[nodiscard]] Result<TransferModel> transferModel(std::span<const LinkLevel> levels, double confidence);

/// Levels by their passes (or visit means): one spread on the ln scale for all of them, since two passes hardly know
/// their own. Shapes  pairs of GB/s and frame times in ms
struct PooledLevels {
  std::vector<LinkLevel> levels;
  double ln_sd = 0;
};
[[nodiscard]] PooledLevels pooledLevels(std::span<const std::pair<double, std::vector<double>>> units);

}  // namespace core
