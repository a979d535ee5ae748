#include "core/record/performed_flips.h"

#include <algorithm>
#include <optional>
#include <string>

#include "core/machine/variable_kind.h"

namespace core {

bool doesFlipRestart(const Variable& variable) {
  const VariableKind* kind = findVariableKind(variable.kind);
  return kind && (kind->needs_reboot || (kind->restarts_by_hand && isSetByHand(variable)));
}

bool doesFlipRestart(const Study& study) {
  return std::any_of(study.variables.begin(), study.variables.end(),
                     [](const Variable& one) { return doesFlipRestart(one); });
}

namespace {

bool needsReboot(const Variable& variable) {
  const VariableKind* kind = findVariableKind(variable.kind);
  return kind && kind->needs_reboot;
}

/// The visits of one boot: where the machine has been since it started.
class Boot {
 public:
  explicit Boot(const Study& study) : study_(study) {}

  std::optional<MissedFlip> add(const Visit& visit) {
    const auto missed = visits_.empty() ? std::nullopt : missedBy(visit);
    visits_.push_back(&visit);
    return missed;
  }

 private:
  [[nodiscard]] std::optional<MissedFlip> missedBy(const Visit& visit) const {
    const Visit& first = *visits_.front();
    const auto same = std::find_if(visits_.begin(), visits_.end(), [&](const Visit* other) {
      return study_.is_null || movedBetween(study_, other->configuration, visit.configuration).empty();
    });
    if (same != visits_.end())
      return wasLeft(visit) ? std::nullopt : std::optional(MissedFlip{visit.id, (*same)->id, true});
    const auto moved = movedBetween(study_, first.configuration, visit.configuration);
    // What a person may have changed without a restart after all, the captures tell.
    const bool cannot_be =
        std::any_of(moved.begin(), moved.end(), [&](std::size_t one) { return needsReboot(study_.variables[one]); });
    return cannot_be ? std::optional(MissedFlip{visit.id, first.id, false}) : std::nullopt;
  }

  // Has a variable that needs no restart been elsewhere meanwhile, so that the configuration was set anew?
  [[nodiscard]] bool wasLeft(const Visit& visit) const {
    return std::any_of(visits_.begin(), visits_.end(), [&](const Visit* other) {
      const auto moved = movedBetween(study_, other->configuration, visit.configuration);
      return std::any_of(moved.begin(), moved.end(),
                         [&](std::size_t one) { return !doesFlipRestart(study_.variables[one]); });
    });
  }

  const Study& study_;
  std::vector<const Visit*> visits_;
};

}  // namespace

std::vector<MissedFlip> missedFlips(const Study& study, std::span<const Visit> visits) {
  std::vector<MissedFlip> missed;
  if (!doesFlipRestart(study)) return missed;
  std::map<std::string, Boot> boots;
  for (const Visit& visit : visits)
    if (!visit.boot_id.empty() && !visit.is_taken)
      if (const auto one = boots.try_emplace(visit.boot_id, study).first->second.add(visit)) missed.push_back(*one);
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
