#include "core/estimate/holm.h"

#include <algorithm>

namespace core {

std::vector<std::optional<double>> holmAdjusted(std::span<const std::optional<double>> p) {
  std::vector<std::size_t> family;
  for (std::size_t i = 0; i < p.size(); ++i)
    if (p[i]) family.push_back(i);
  std::stable_sort(family.begin(), family.end(), [&](std::size_t a, std::size_t b) { return *p[a] < *p[b]; });

  std::vector<std::optional<double>> adjusted(p.size());
  double running_maximum = 0;
  for (std::size_t rank = 0; rank < family.size(); ++rank) {
    const double stepped = static_cast<double>(family.size() - rank) * *p[family[rank]];
    running_maximum = std::max(running_maximum, std::min(1.0, stepped));
    adjusted[family[rank]] = running_maximum;
  }
  return adjusted;
}

}  // namespace core
