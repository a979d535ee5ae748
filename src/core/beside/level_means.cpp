#include "core/beside/level_means.h"

#include <algorithm>

#include "core/estimate/effect.h"
#include "core/proof/step_proofs.h"
#include "core/record/case_passes.h"
#include "core/record/pair_visits.h"
#include "core/study/schedule.h"

namespace core {

LevelMeans::LevelMeans(const StudyAside& one) : one_(one) {
  const auto retired = retiredVisits(*one.study, *one.record, one.judgement->steps);
  const std::vector<Visit> visits = visitsWithout(retired, one.record->visits);
  for (const auto& counted : countedByCase(*one.study, scheduleOf(*one.study), visits, one.record->passes))
    values_.push_back(visitValues(counted, [](const Pass& pass) { return pass.value; }));
}

std::optional<Contrast> LevelMeans::at(std::size_t case_index, ConfigurationId configuration) const {
  const Case& a_case = one_.study->cases[case_index];
  if (a_case.metric.scale != Scale::Ratio || one_.judgement->isSealed(a_case)) return std::nullopt;
  const std::vector<VisitValues>& values = values_[case_index];
  const LevelUnits units = levelUnits(values, configuration, a_case.metric.scale);
  if (units.values.empty() || !units.is_log) return std::nullopt;
  Result<Contrast> mean =
      pairedDifference(units.values, one_.study->confidence, std::max(1.0, largestOf(units.values)));
  const auto visits_there = std::count_if(values.begin(), values.end(), [&](const VisitValues& visit) {
    return visit.configuration == configuration && !visit.values.empty();
  });
  if (mean && visits_there < 2) {  // one visit does not show what flips add: how sure it is nobody knows
    mean->se.reset();
    mean->inference.reset();
    mean->no_interval = NoInterval::TooFewPasses;
  }
  const auto improvement = onImprovementScale(std::move(mean), a_case.metric.direction);
  return improvement ? std::optional(*improvement) : std::nullopt;
}

std::optional<StudyEffect> numbersOf(const std::optional<Contrast>& contrast) {
  if (!contrast || !contrast->se || !contrast->inference) return std::nullopt;
  return StudyEffect{contrast->difference, *contrast->se, contrast->inference->df};
}

}  // namespace core
