#include "core/record/preparations.h"

#include <algorithm>

#include <fmt/format.h>

#include "core/machine/variable_kind.h"
#include "core/record/flip_guide.h"
#include "core/record/performed_flips.h"
#include "core/study/schedule.h"

namespace core {
namespace {

std::size_t visitsByHand(const Study& study) {
  std::size_t count = 0;
  std::optional<Visit> before;
  for (const PlannedVisit& planned : visitsOf(study)) {
    count += isFlippedByHand(study, planned.configuration, before) ? 1 : 0;
    before = Visit{0, planned.number, planned.round, planned.configuration, {}, 0};
  }
  return count;
}

// Of a setting in the firmware that nobody has found yet.
bool isPlaceUnknown(const Variable& variable) {
  const VariableKind* kind = findVariableKind(variable.kind);
  return kind && isSetInFirmwareMenu(*kind) && isSetByHand(variable) &&
         std::any_of(variable.levels.begin(), variable.levels.end(),
                     [](const Level& level) { return level.menu_path.empty(); });
}

template <typename Does>
std::ptrdiff_t passesWhere(const Study& study, const Does& does) {
  const auto schedule = scheduleOf(study);
  return std::count_if(schedule.begin(), schedule.end(),
                       [&](const Slot& slot) { return does(study.cases[slot.case_index]); });
}

std::string whoFlips(const Study& study, bool needs_people) {
  const std::size_t visits = visitsOf(study).size();
  const std::size_t by_hand = visitsByHand(study);
  if (by_hand > 0)
    return by_hand == visits
               ? fmt::format("Somebody at the bench before each of {} visits, to flip it.", visits)
               : fmt::format("Somebody at the bench before {} of {} visits, to flip it.", by_hand, visits);
  if (doesFlipRestart(study) && study.machine.empty())
    return "Flips restart this machine: let it log in and go on by itself (iron-lever-cli resume --install).";
  return needs_people ? "The program flips by itself." : "Nobody has to stay: the program flips by itself.";
}

}  // namespace

std::vector<std::string> preparationsFor(const Study& study) {
  const auto played = passesWhere(study, [](const Case& one) { return one.is_played; });
  const auto typed = passesWhere(study, [](const Case& one) { return one.source == ResultSource::ByHand; });
  std::vector<std::string> all{whoFlips(study, played + typed > 0)};
  if (played > 0) all.push_back(fmt::format("One player for {} passes, who plays the same route each time.", played));
  if (typed > 0) all.push_back(fmt::format("Somebody who reads off {} results.", typed));
  if (std::any_of(study.variables.begin(), study.variables.end(), isPlaceUnknown))
    all.emplace_back("Find the setting in the firmware's menu, and write its path beside each level.");
  const bool needs_test = std::any_of(study.variables.begin(), study.variables.end(), [](const Variable& one) {
    const VariableKind* kind = findVariableKind(one.kind);
    return kind && kind->needs_stability_test;
  });
  if (needs_test && study.stability_command.empty())
    all.emplace_back("Test each level for errors before it counts, or let the sheet do it.");
  all.emplace_back("Switch off updates, and whatever else may start by itself while passes run.");
  return all;
}

}  // namespace core
