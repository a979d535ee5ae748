#include "core/findings/suite_members.h"

#include <algorithm>

namespace core {

bool hasValuesAt(std::span<const VisitValues> visits, ConfigurationId configuration) {
  return std::any_of(visits.begin(), visits.end(), [&](const VisitValues& visit) {
    return visit.configuration == configuration && !visit.values.empty();
  });
}

std::vector<VisitValues> sharingVisits(const Study& study, const std::vector<VisitValues>& everywhere) {
  return study.sharesSpread() ? everywhere : std::vector<VisitValues>();
}

std::vector<ConfigurationId> measuredOf(const Study& study, std::span<const std::vector<VisitValues>> cases) {
  std::vector<ConfigurationId> measured;
  for (const ConfigurationId one : configurationsOf(study))
    if (std::any_of(cases.begin(), cases.end(), [&](const auto& visits) { return hasValuesAt(visits, one); }))
      measured.push_back(one);
  return measured;
}

std::vector<double> weightsAt(std::span<const ConfigurationId> compared) {
  std::vector<double> weights;
  for (const ConfigurationId one : compared) {
    weights.resize(std::max(weights.size(), placeOf(one) + 1), 0);
    weights[placeOf(one)] = 1;
  }
  return weights;
}

std::optional<std::vector<VisitValues>> suiteVisitsOf(const Study& study, std::size_t case_index,
                                                      std::span<const VisitValues> visits,
                                                      std::span<const ConfigurationId> compared,
                                                      const IsAwaited& is_awaited) {
  const Case& one = study.cases[case_index];
  if (one.is_second_part || !one.shouldRespond() || one.metric.scale != Scale::Ratio) return std::nullopt;
  const bool is_everywhere = std::all_of(compared.begin(), compared.end(), [&](ConfigurationId at) {
    return hasValuesAt(visits, at) || is_awaited(case_index, at);
  });
  if (!is_everywhere) return std::nullopt;
  return positiveVisits(visits, weightsAt(compared));
}

}  // namespace core
