#include "core/estimate/tipping.h"

#include <cmath>

namespace core {

std::optional<double> tippingFlipSd(const Effect& effect, double bound) {
  if (!effect.is_log || !effect.isFlipUnseen() || !effect.contrast.inference) return std::nullopt;
  const double room = std::abs(effect.contrast.difference) - bound;
  if (room <= 0) return std::nullopt;
  const double widest_se = room / effect.contrast.inference->t_quantile;
  const double variance_left = widest_se * widest_se - *effect.contrast.se * *effect.contrast.se;
  if (variance_left < 0) return std::nullopt;
  return std::sqrt(variance_left / (1.0 / effect.design.visits[0] + 1.0 / effect.design.visits[1]));
}

}  // namespace core
