#include "core/estimate/null_study.h"

#include <algorithm>
#include <cmath>

namespace core {

Result<NullStudy> nullStudy(std::span<const std::vector<double>> visits) {
  if (visits.size() < 2)
    return Error{ErrorKind::TooFew, "a null study needs at least 2 visits", "null study", "Six are needed to use it"};
  NullStudy result;
  result.visits = static_cast<int>(visits.size());
  std::vector<double> means;
  double within = 0;
  double inverse_passes = 0;
  for (const std::vector<double>& visit : visits) {
    if (visit.empty())
      return Error{ErrorKind::TooFew, "a visit has no pass", "null study", "Leave it out, or repeat it"};
    std::vector<double> logs;
    for (const double value : visit) {
      if (!(value > 0) || !std::isfinite(value))
        return Error{ErrorKind::OutOfRange, "a value is not above 0", "null study", "Use a metric of scale ratio"};
      logs.push_back(std::log(value));
    }
    means.push_back(meanOf(logs));
    within += sumOfSquares(logs);
    result.pass_df += static_cast<int>(logs.size()) - 1;
    inverse_passes += 1.0 / static_cast<double>(logs.size());
  }
  const double visit_df = result.visitDf();
  const double visit_variance = sumOfSquares(means) / visit_df;
  result.visit_sd = std::sqrt(visit_variance);
  result.passes_per_visit = result.visits / inverse_passes;
  const std::size_t first = visits.front().size();
  if (std::all_of(visits.begin(), visits.end(), [&](const auto& one) { return one.size() == first; }))
    result.same_passes_everywhere = static_cast<int>(first);
  double of_passes = 0;  // the passes' own part in a visit mean
  if (result.pass_df > 0) {
    result.pass_sd = std::sqrt(within / result.pass_df);
    of_passes = within / result.pass_df / result.passes_per_visit;
  }
  takeFlips(result, of_passes, result.pass_df > 0 ? of_passes * of_passes / result.pass_df : 0.0);
  return result;
}

void takeFlips(NullStudy& null_study, double of_passes, double spread) {
  const double of_visits = null_study.visit_sd * null_study.visit_sd;
  const double of_flips = of_visits - of_passes;
  const double both = of_visits * of_visits / null_study.visitDf() + spread;
  null_study.flip_sd = std::sqrt(std::max(0.0, of_flips));
  null_study.flip_df = both > 0 ? std::max(1.0, of_flips * of_flips / both) : 1.0;
}

std::optional<FlipSd> flipSdFrom(const NullStudy& null_study, std::span<const VisitValues> visits, Weights weights) {
  if (!null_study.isUsable()) return std::nullopt;
  FlipSd flip{null_study.flip_sd, null_study.flip_df, std::vector<double>(weights.size(), 0), false};
  bool is_alike = null_study.same_passes_everywhere.has_value();
  for (const VisitValues& visit : visits) {
    if (visit.values.empty()) continue;
    const std::size_t place = placeOf(visit.configuration);
    if (place >= weights.size() || weights[place] == 0) continue;
    flip.visits[place] += 1;
    is_alike = is_alike && static_cast<int>(visit.values.size()) == *null_study.same_passes_everywhere;
  }
  for (std::size_t i = 0; i < weights.size(); ++i)
    if (weights[i] != 0 && flip.visits[i] == 0) return std::nullopt;
  if (!is_alike) return flip;
  flip.sd = null_study.visit_sd;
  flip.df = null_study.visitDf();
  flip.is_visit_means = true;
  return flip;
}

}  // namespace core
