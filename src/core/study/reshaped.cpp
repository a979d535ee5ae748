#include "core/study/reshaped.h"

#include <algorithm>

#include <fmt/format.h>

namespace core {
namespace {

constexpr std::size_t kMostLevels = 12;

// One more variable to be named; its two levels as well. Listed configurations leave it at its baseline.
void addAnother(Study& study) {
  Variable variable;
  variable.name = givenVariableName(study.variables.size());
  variable.levels = givenLevels();
  study.variables.push_back(std::move(variable));
  for (Configuration& one : study.configurations) one.levels.push_back(0);
}

bool isListed(const Study& study, const std::vector<std::size_t>& levels) {
  return std::any_of(study.configurations.begin(), study.configurations.end(),
                     [&](const Configuration& one) { return one.levels == levels; });
}

// A step is called by the level that it moves to, as long as no other one is.
std::string stepName(const Study& study, std::size_t variable, std::size_t level) {
  const std::string& name = study.variables[variable].levels[level].name;
  const bool is_taken = std::any_of(study.configurations.begin(), study.configurations.end(),
                                    [&](const Configuration& one) { return one.name == name; });
  return name.empty() || is_taken ? fmt::format("step {}", study.configurations.size()) : name;
}

void swapPlaces(std::size_t& place, std::size_t a, std::size_t b) {
  if (place == a)
    place = b;
  else if (place == b)
    place = a;
}

}  // namespace

std::string givenVariableName(std::size_t place) { return fmt::format("variable {}", place + 1); }

std::vector<Level> givenLevels() {
  std::vector<Level> levels(2);
  levels[0].name = "off";
  levels[1].name = "on";
  return levels;
}

Study redrawn(Study study) {
  const std::size_t count = study.configurationCount();
  const auto fits = [&](const RoundOrder& round) { return round.size() == count; };
  if (!std::all_of(study.plan.drawn.begin(), study.plan.drawn.end(), fits))
    study.plan.drawn = drawRoundsOf(study, study.plan, study.plan.rounds, study.plan.seed);
  return study;
}

Study reshaped(Study study, Shape shape) {
  if (study.shape == shape) return study;
  study.shape = shape;
  study.configurations.clear();
  study.plan.spread = shape == Shape::Pair ? Spread::Own : Spread::Shared;
  study.plan.grouped_by.clear();
  study.plan.planned_for = PlannedFor::Difference;
  for (Variable& one : study.variables) one.is_group = false;
  if (shape == Shape::Pair) {
    Variable& variable = study.variable();
    const std::size_t last = variable.baseline + 1 == variable.levels.size() ? 0 : variable.levels.size() - 1;
    variable.levels = {variable.levels[variable.baseline], variable.levels[last]};
    variable.baseline = 0;
  }
  if (shape == Shape::Pair || shape == Shape::Ladder) {
    study.variables.resize(1);
    study.variable().flip_minutes.reset();  // of the only variable the plan says it
  }
  if (shape == Shape::Crossed || shape == Shape::Chain)
    while (study.variables.size() < 2) addAnother(study);
  if (shape == Shape::Crossed) study.variables.resize(2);
  if (shape == Shape::Chain) {
    std::vector<std::size_t> levels(study.variables.size(), 0);
    study.configurations = {{"as it is", levels}};
    levels[0] = 1;
    study.configurations.push_back({stepName(study, 0, 1), levels});
  }
  return redrawn(std::move(study));
}

Study withVariableAdded(Study study) {
  addAnother(study);
  return study;
}

Study withStepAdded(Study study) {
  const std::vector<std::size_t> last = study.configurations.back().levels;
  for (const bool is_onward : {true, false})
    for (std::size_t v = 0; v < study.variables.size(); ++v)
      for (std::size_t level = is_onward ? last[v] + 1 : 0; level < study.variables[v].levels.size(); ++level) {
        std::vector<std::size_t> next = last;
        next[v] = level;
        if (isListed(study, next)) continue;
        study.configurations.push_back({stepName(study, v, level), std::move(next)});
        return redrawn(std::move(study));
      }
  return study;
}

Study withName(Study study, std::size_t variable, const std::string& name) {
  std::string& now = study.variables[variable].name;
  if (study.plan.grouped_by == now) study.plan.grouped_by = name;
  now = name;
  return study;
}

Study withLevel(Study study, std::size_t variable, std::size_t level, const Level& wanted) {
  Level& now = study.variables[variable].levels[level];
  for (Configuration& one : study.configurations)
    if (one.levels[variable] == level && !now.name.empty() && one.name == now.name && !wanted.name.empty())
      one.name = wanted.name;
  now = wanted;
  return study;
}

Study withLevelAdded(Study study, std::size_t variable) {
  auto& levels = study.variables[variable].levels;
  if (levels.size() >= kMostLevels) return study;
  Level level;
  level.name = fmt::format("level {}", levels.size() + 1);
  levels.push_back(level);
  return redrawn(std::move(study));
}

Study withLevelRemoved(Study study, std::size_t variable, std::size_t level) {
  Variable& one = study.variables[variable];
  const bool is_named = std::any_of(study.configurations.begin(), study.configurations.end(),
                                    [&](const Configuration& at) { return at.levels[variable] == level; });
  if (one.levels.size() <= 2 || is_named) return study;
  one.levels.erase(one.levels.begin() + static_cast<std::ptrdiff_t>(level));
  if (one.baseline == level) one.baseline = 0;
  if (one.baseline > level) --one.baseline;
  for (Configuration& at : study.configurations)
    if (at.levels[variable] > level) --at.levels[variable];
  return redrawn(std::move(study));
}

Study withLevelRaised(Study study, std::size_t variable, std::size_t level) {
  if (level == 0) return study;
  Variable& one = study.variables[variable];
  std::swap(one.levels[level], one.levels[level - 1]);
  swapPlaces(one.baseline, level, level - 1);
  for (Configuration& at : study.configurations) swapPlaces(at.levels[variable], level, level - 1);
  return study;
}

}  // namespace core
