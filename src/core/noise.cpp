#include "core/noise.h"

#include "core/case_passes.h"

namespace core {

std::vector<CaseNoise> noiseOf(const Study& study, std::span<const Visit> visits, std::span<const Pass> passes) {
  const std::vector<Slot> schedule = scheduleOf(study);
  std::vector<CaseNoise> all;
  for (std::size_t i = 0; i < study.cases.size(); ++i) {
    const auto counted = countedPasses(i, schedule, visits, passes);
    std::vector<std::vector<double>> by_visit;
    for (const VisitValues& visit : visitValues(counted, [](const Pass& pass) { return pass.value; }))
      if (!visit.values.empty()) by_visit.push_back(visit.values);
    if (const auto noise = nullStudy(by_visit)) all.push_back({study.cases[i].title(), *noise});
  }
  return all;
}

}  // namespace core
