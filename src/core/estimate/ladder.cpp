#include "core/estimate/ladder.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/estimate/effect.h"
#include "core/values/percent.h"

namespace core {

std::optional<Elasticity> elasticityOf(const Contrast& step, Direction direction, const Rung& from, const Rung& to) {
  const double gained = std::log(to.resource / from.resource);
  if (!step.inference || gained == 0 || !std::isfinite(gained)) return std::nullopt;
  const double scale = signOf(direction) / gained;
  const double one = scale * step.inference->lo;
  const double other = scale * step.inference->hi;
  return Elasticity{scale * step.difference, std::min(one, other), std::max(one, other)};
}

std::vector<std::size_t> weakestFirst(const std::vector<Rung>& rungs) {
  std::vector<std::size_t> by_resource(rungs.size());
  std::iota(by_resource.begin(), by_resource.end(), std::size_t{0});
  std::stable_sort(by_resource.begin(), by_resource.end(),
                   [&](std::size_t a, std::size_t b) { return rungs[a].resource < rungs[b].resource; });
  return by_resource;
}

Result<EnoughPoint> enoughPointFrom(std::span<const double> goodness, const std::vector<Rung>& rungs,
                                    const LevelContrast& contrast, double threshold_percent) {
  EnoughPoint found;
  found.best = static_cast<std::size_t>(std::max_element(goodness.begin(), goodness.end()) - goodness.begin());
  for (std::size_t level = 0; level < rungs.size(); ++level) {
    if (level == found.best) {
      found.levels.push_back({0, 0, 0, true});
      continue;
    }
    const auto shortfall = contrast(level, found.best);
    if (!shortfall) return shortfall.error();
    if (!shortfall->inference)
      return Error{ErrorKind::TooFew, "a level has too few passes for an interval", rungs[level].name,
                   "Run more there"};
    const double upper = shortfall->inference->hi;
    found.levels.push_back(
        {shortfall->difference, upper, shortfall->inference->lo, upper < lnOfPercent(threshold_percent)});
  }
  const std::vector<std::size_t> by_resource = weakestFirst(rungs);
  for (const std::size_t level : by_resource)
    if (found.levels[level].is_enough && !found.lowest_by_itself) found.lowest_by_itself = level;
  for (auto level = by_resource.rbegin(); level != by_resource.rend() && found.levels[*level].is_enough; ++level)
    found.enough = *level;
  return found;
}

Result<EnoughPoint> enoughPointOf(const Units& units, const std::vector<Rung>& rungs, Direction direction,
                                  double threshold_percent, double confidence) {
  std::vector<double> goodness;
  for (std::size_t level = 0; level < rungs.size(); ++level)
    goodness.push_back(signOf(direction) * units.meanAt(level));
  const auto contrast = [&](std::size_t from, std::size_t to) {
    return onImprovementScale(contrastOf(units, differenceWeights(rungs.size(), from, to), confidence), direction);
  };
  return enoughPointFrom(goodness, rungs, contrast, threshold_percent);
}

}  // namespace core
