#include "core/record/pair_visits.h"

#include <set>

#include <algorithm>

namespace core {

std::vector<Visit> visitsWithout(std::span<const std::int64_t> retired, std::span<const Visit> visits) {
  std::vector<Visit> kept;
  for (const Visit& visit : visits)
    if (std::find(retired.begin(), retired.end(), visit.id) == retired.end()) kept.push_back(visit);
  return kept;
}

std::vector<Visit> ownVisits(std::span<const Visit> visits) {
  std::vector<Visit> own(visits.begin(), visits.end());
  std::erase_if(own, [](const Visit& one) { return one.is_taken; });
  return own;
}

std::vector<Visit> pairVisits(std::span<const Visit> visits, PairOf pair) {
  std::vector<Visit> of_pair;
  for (Visit visit : visits) {
    if (visit.configuration != pair.from && visit.configuration != pair.to) continue;
    visit.configuration = visit.configuration == pair.from ? ConfigurationId::Baseline : ConfigurationId::Changed;
    of_pair.push_back(std::move(visit));
  }
  return of_pair;
}

Record pairRecordOf(const Record& record, PairOf pair, std::span<const Visit> visits) {
  Record of_pair = record;
  of_pair.visits = visits;
  of_pair.unreachable.clear();
  for (Unreachable one : record.unreachable) {
    if (one.configuration != pair.from && one.configuration != pair.to) continue;
    one.configuration = one.configuration == pair.from ? ConfigurationId::Baseline : ConfigurationId::Changed;
    of_pair.unreachable.push_back(std::move(one));
  }
  return of_pair;
}

std::vector<Visit> visitsThatStand(const Record& record) {
  std::set<std::int64_t> with_passes;
  for (const Pass& pass : record.passes) with_passes.insert(pass.visit_id);
  std::vector<Visit> stand;
  for (const Visit& visit : record.visits) {
    const bool is_given_up =
        std::any_of(record.unreachable.begin(), record.unreachable.end(),
                    [&](const Unreachable& one) { return one.configuration == visit.configuration; });
    const bool is_begun_anew = std::any_of(record.visits.begin(), record.visits.end(), [&](const Visit& later) {
      return later.planned == visit.planned && later.id > visit.id;
    });
    if (with_passes.contains(visit.id) || (!is_given_up && !is_begun_anew)) stand.push_back(visit);
  }
  return stand;
}

}  // namespace core
