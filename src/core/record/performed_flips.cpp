#include "core/record/performed_flips.h"

#include <utility>

#include "core/machine/variable_kind.h"

namespace core {

bool doesFlipRestart(const Study& study) {
  const VariableKind* kind = findVariableKind(study.kind);
  return kind && (kind->needs_reboot || (kind->restarts_by_hand && isSetByHand(study)));
}

std::vector<MissedFlip> missedFlips(const Study& study, std::span<const Visit> visits) {
  std::vector<MissedFlip> missed;
  if (!doesFlipRestart(study)) return missed;
  const VariableKind* kind = findVariableKind(study.kind);
  std::map<std::string, const Visit*> first_of_boot;
  for (const Visit& visit : visits) {
    if (visit.boot_id.empty()) continue;
    const auto [first, is_new] = first_of_boot.try_emplace(visit.boot_id, &visit);
    if (is_new) continue;
    const bool is_same_level = first->second->side == visit.side || study.is_null;
    // What a person may have changed without a restart after all, the captures tell.
    if (is_same_level || kind->needs_reboot) missed.push_back({visit.id, first->second->id, is_same_level});
  }
  return missed;
}

std::map<std::int64_t, const Visit*> performedVisits(const Study& study, std::span<const Visit> visits) {
  std::map<std::int64_t, const Visit*> counts_as;
  for (const Visit& visit : visits) counts_as[visit.id] = &visit;
  for (const MissedFlip& missed : missedFlips(study, visits))
    if (missed.is_same_level) counts_as[missed.visit_id] = counts_as[missed.same_as_id];
  return counts_as;
}

}  // namespace core
