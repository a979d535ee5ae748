#include "core/proof/retired_visits.h"

#include <algorithm>
#include <charconv>
#include <string_view>

namespace core {

std::string visitDoubtId(const char* kind, std::span<const std::int64_t> visit_ids) {
  std::string id = std::string(kind) + "/";
  for (std::size_t i = 0; i < visit_ids.size(); ++i)
    id += (i > 0 ? ", visit " : "visit ") + std::to_string(visit_ids[i]);
  return id;
}

std::string visitDoubtId(const char* kind, std::int64_t visit_id) { return visitDoubtId(kind, {{visit_id}}); }

std::vector<std::int64_t> visitsNamedIn(const std::string& doubt_id, const char* kind) {
  std::vector<std::int64_t> visits;
  if (!doubt_id.starts_with(std::string(kind) + "/")) return visits;
  constexpr std::string_view kVisit = "visit ";
  for (std::size_t at = doubt_id.find(kVisit); at != std::string::npos; at = doubt_id.find(kVisit, at + 1)) {
    std::int64_t visit = 0;
    const char* begin = doubt_id.data() + at + kVisit.size();
    if (std::from_chars(begin, doubt_id.data() + doubt_id.size(), visit).ec == std::errc()) visits.push_back(visit);
  }
  return visits;
}

std::vector<std::int64_t> retiredVisits(const BenchProof& proof, std::span<const Acceptance> acceptances) {
  std::vector<std::int64_t> retired;
  const auto retire = [&](std::int64_t visit_id, const char* kind) {
    const bool is_accepted = std::any_of(acceptances.begin(), acceptances.end(), [&](const auto& one) {
      const auto named = visitsNamedIn(one.first, kind);
      return std::find(named.begin(), named.end(), visit_id) != named.end();
    });
    if (!is_accepted && std::find(retired.begin(), retired.end(), visit_id) == retired.end())
      retired.push_back(visit_id);
  };
  for (const VisitProof& visit : proof.visits) {
    if (!visit.not_as_its_level.empty()) retire(visit.visit_id, kUnlikeItsLevelId);
    if (!visit.not_its_name.empty()) retire(visit.visit_id, kLevelNotReachedId);
  }
  for (const MissedFlip& flip : proof.missed_flips)
    if (!flip.is_same_level) retire(flip.visit_id, kFlipNotPerformedId);
  return retired;
}

}  // namespace core
