#include "core/findings/quality_families.h"

#include "core/estimate/holm.h"

namespace core {
namespace {

constexpr double kClean = 0.05;

void judgeDrift(std::span<CaseFinding> cases) {
  std::vector<std::optional<double>> p;
  for (const CaseFinding& one : cases)
    p.push_back(one.drift && one.drift->is_estimable ? std::optional(one.drift->p) : std::nullopt);
  const auto adjusted = holmAdjusted(p);
  for (std::size_t i = 0; i < cases.size(); ++i) {
    if (!cases[i].drift) continue;
    cases[i].drift->p_holm = adjusted[i];
    cases[i].drift->is_flagged = adjusted[i] && *adjusted[i] < kClean;
  }
}

void judgeWarmUp(std::span<CaseFinding> cases) {
  std::vector<std::optional<double>> p;
  for (const CaseFinding& one : cases)
    p.push_back(one.warm_up && one.warm_up->inference ? std::optional(one.warm_up->inference->p) : std::nullopt);
  const auto adjusted = holmAdjusted(p);
  for (std::size_t i = 0; i < cases.size(); ++i) cases[i].is_warm_up_seen = adjusted[i] && *adjusted[i] < kClean;
}

void judgeOddPasses(std::span<CaseFinding> cases) {
  std::vector<std::optional<double>> p;
  for (const CaseFinding& one : cases)
    for (const OddGroup& group : one.odd_groups) p.emplace_back(group.p);
  const auto adjusted = holmAdjusted(p);
  std::size_t next = 0;
  for (CaseFinding& one : cases) {
    one.odd_passes.clear();
    one.odd_visits.clear();
    for (const OddGroup& group : one.odd_groups) {
      if (*adjusted[next++] >= kClean) continue;
      if (group.visit)
        one.odd_visits.push_back(*group.visit);
      else
        one.odd_passes.insert(one.odd_passes.end(), group.passes.begin(), group.passes.end());
    }
  }
}

}  // namespace

void judgeQuality(std::span<CaseFinding> cases) {
  judgeDrift(cases);
  judgeWarmUp(cases);
  judgeOddPasses(cases);
}

}  // namespace core
