#include "core/record/flip_guide.h"

#include <algorithm>

#include <fmt/format.h>

#include "core/machine/variable_kind.h"
#include "core/record/performed_flips.h"

namespace core {

namespace {

// Those that a person has to set: all at the start, and where the same configuration is to be set anew; else those that
// move.
std::vector<std::size_t> variablesToSet(const Study& study, ConfigurationId to, const std::optional<Visit>& before) {
  std::vector<std::size_t> all;
  for (std::size_t i = 0; i < study.variables.size(); ++i) all.push_back(i);
  std::vector<std::size_t> to_set =
      before && before->configuration != to ? movedBetween(study, before->configuration, to) : all;
  std::erase_if(to_set, [&](std::size_t one) {
    return !isSetByHand(study.variables[one]) || !findVariableKind(study.variables[one].kind);
  });
  return to_set;
}

}  // namespace

bool isFlippedByHand(const Study& study, ConfigurationId to, const std::optional<Visit>& before) {
  return !variablesToSet(study, to, before).empty();
}

FlipGuide flipGuide(const Study& study, ConfigurationId to, const std::optional<Visit>& before) {
  FlipGuide guide;
  const auto to_set = variablesToSet(study, to, before);
  if (to_set.empty()) return guide;
  const std::string name = study.nameOf(to);
  const bool is_there_already = before && before->configuration == to;
  // Two visits at one level are two only if the level was set anew in between: that is what a flip adds.
  if (is_there_already && doesFlipRestart(study))
    guide.steps.push_back(fmt::format("Restart, and set {} again: only then do visit {} and the next count as two",
                                      name, before->planned));
  else if (is_there_already)
    guide.steps.push_back(fmt::format("Leave {}, and set it again: only then do visit {} and the next count as two",
                                      name, before->planned));
  const std::vector<std::size_t> levels = study.levelsAt(to);
  for (const std::size_t one : to_set) {
    const VariableKind& kind = *findVariableKind(study.variables[one].kind);
    const Level& level = study.variables[one].levels[levels[one]];
    if (study.variables.size() > 1)
      guide.steps.push_back(fmt::format("{}: {}.", study.variables[one].name, level.name));
    for (const std::string_view step : kind.steps) guide.steps.emplace_back(step);
    if (!level.menu_path.empty()) guide.steps.push_back("On this bench it is found at: " + level.menu_path);
    for (const std::string& point : level.checklist)
      if (std::find(guide.checklist.begin(), guide.checklist.end(), point) == guide.checklist.end())
        guide.checklist.push_back(point);
    for (const std::string_view caution : kind.cautions)
      if (std::find(guide.cautions.begin(), guide.cautions.end(), caution) == guide.cautions.end())
        guide.cautions.emplace_back(caution);
  }
  guide.steps.push_back(fmt::format("The bench must be at {} before you start: the capture will show it.", name));
  return guide;
}

}  // namespace core
