#include "core/beside/level_means.h"

#include <algorithm>
#include <cmath>

#include "core/proof/step_proofs.h"
#include "core/record/case_passes.h"
#include "core/record/pair_visits.h"
#include "core/study/schedule.h"

namespace core {

std::optional<Contrast> levelMean(const StudyAside& one, std::size_t case_index, ConfigurationId at) {
  const Case& a_case = one.study->cases[case_index];
  if (a_case.metric.scale != Scale::Ratio) return std::nullopt;
  const auto retired = retiredVisits(*one.study, *one.record, one.judgement->steps);
  const std::vector<Visit> visits = visitsWithout(retired, one.record->visits);
  const auto counted = countedByCase(*one.study, scheduleOf(*one.study), visits, one.record->passes);
  std::vector<double> means;
  for (const VisitValues& visit : visitValues(counted[case_index], [](const Pass& pass) { return pass.value; })) {
    if (visit.configuration != at || visit.values.empty()) continue;
    std::vector<double> ln;
    for (const double value : visit.values) {
      if (value <= 0) return std::nullopt;
      ln.push_back(std::log(value));
    }
    means.push_back(meanOf(ln) * (a_case.metric.direction == Direction::LowerIsBetter ? -1 : 1));
  }
  if (means.empty()) return std::nullopt;
  if (means.size() < 2) {
    Contrast point;
    point.difference = means.front();
    point.no_interval = NoInterval::TooFewPasses;
    return point;
  }
  const auto mean = pairedDifference(means, one.study->confidence, std::max(1.0, largestOf(means)));
  return mean ? std::optional(*mean) : std::nullopt;
}

}  // namespace core
