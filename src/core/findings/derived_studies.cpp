#include "core/findings/derived_studies.h"

#include <algorithm>
#include <utility>

#include "core/study/schedule.h"

namespace core {

// Whatever was added to the other study is asked from the start.
static void forgetParts(Study& study) {
  study.plan.rounds -= study.plan.second_part_rounds;
  study.plan.second_part_rounds = 0;
  study.plan.extension_rounds = 0;
  for (Case& one : study.cases) one.is_second_part = false;
}

Study startedAnew(Study study, int seed) {
  forgetParts(study);
  study.plan.seed = seed;
  study.plan.drawn = drawRoundsOf(study, study.plan, study.plan.rounds, seed);
  return study;
}

// Two of a study's configurations alone, each with everything that brings it about.
static Study onlyThese(const Study& study, PairOf pair) {
  Study two = study;
  if (study.shape == Shape::Pair) return two;
  two.plan.grouped_by.clear();
  two.plan.planned_for = PlannedFor::Difference;
  if (study.shape == Shape::Ladder) {
    const auto& levels = study.variable().levels;
    two.shape = Shape::Pair;
    two.variable().levels = {levels[placeOf(pair.from)], levels[placeOf(pair.to)]};
    two.variable().baseline = 0;
    return two;
  }
  two.configurations = {{study.nameOf(pair.from), study.levelsAt(pair.from)},
                        {study.nameOf(pair.to), study.levelsAt(pair.to)}};
  return two;
}

Study confirmationOf(const Study& study, const Findings& findings, std::size_t case_index, PairOf pair) {
  constexpr int kRounds = 5;
  Study again = onlyThese(study, pair);
  again.cases = {study.cases[case_index]};
  if (const auto calm = leastSurprising(findings, case_index)) again.cases.push_back(study.cases[*calm]);
  again.plan.looks.clear();
  forgetParts(again);
  again.plan.is_sealed = true;
  if (study.plan.is_one_way) return again;
  again.plan.passes_per_visit = visitsOf(study).front().passes;
  again.plan.order = Order::BalancedShuffle;
  again.plan.rounds = kRounds;
  again.plan.drawn.clear();
  return again;
}

// As a pair whose first level is the whole baseline configuration. A level has one command that sets it: the first
// variable's that has one.
static Study atBaseline(Study study) {
  const Setup setup = setupOf(study, study.baseline());
  Level level;
  level.name = setup.name;
  level.prefix = setup.prefix;
  level.environment = setup.environment;
  level.writes = setup.writes;
  if (!setup.set_commands.empty()) {
    level.set_command = setup.set_commands.front().command;
    level.without = setup.set_commands.front().without;
  }
  study.shape = Shape::Pair;
  study.variables.resize(1);
  study.configurations.clear();
  study.variable().levels = {level, level};
  study.variable().baseline = 0;
  return study;
}

Study nullStudyOf(const Study& study, int visits) {
  constexpr int kUsual = 8;
  constexpr int kFewest = 6;
  Study null_study = study;
  forgetParts(null_study);
  null_study.is_null = true;
  if (study.shape != Shape::Pair) null_study = atBaseline(std::move(null_study));
  null_study.variable().levels[1] = null_study.variable().levels[0];
  null_study.variable().levels[1].name += ", again";
  null_study.plan.passes_per_visit = visitsOf(study).front().passes;
  null_study.plan.order = Order::BalancedShuffle;
  null_study.plan.is_one_way = false;
  null_study.plan.rounds = (visits < kFewest ? kUsual : visits + 1) / 2;
  null_study.plan.looks.clear();
  null_study.plan.drawn.clear();
  return null_study;
}

std::optional<std::string> lowerLevelFor(const Study& study, const Unreachable& missed) {
  if (study.shape != Shape::Pair) return std::nullopt;
  auto lower = nextLowerLevel(study.variable().kind, study.nameOf(missed.configuration));
  const std::string other = study.nameOf(missed.configuration == ConfigurationId::Baseline ? ConfigurationId::Changed
                                                                                           : ConfigurationId::Baseline);
  return lower && *lower != other ? std::move(lower) : std::nullopt;
}

// How it is brought about, and what it costs, nobody has said yet.
static Level levelNamed(std::string name) {
  Level level;
  level.name = std::move(name);
  return level;
}

std::optional<Study> withLowerLevel(const Study& study, const Unreachable& missed) {
  const auto lower = lowerLevelFor(study, missed);
  if (!lower) return std::nullopt;
  Study asked = study;
  asked.variable().levels[placeOf(missed.configuration)] = levelNamed(*lower);
  return asked;
}

// The level below which the study has no other.
static std::optional<std::size_t> lowestLevel(const Study& study) {
  if (study.is_null || (study.shape != Shape::Pair && study.shape != Shape::Ladder)) return std::nullopt;
  const Variable& variable = study.variable();
  const auto isBelow = [&](const std::string& name, const std::string& upper) {
    auto lower = nextLowerLevel(variable.kind, upper);
    while (lower && *lower != name) lower = nextLowerLevel(variable.kind, *lower);
    return lower.has_value();
  };
  for (std::size_t i = 0; i < variable.levels.size(); ++i)
    if (std::all_of(variable.levels.begin(), variable.levels.end(), [&](const Level& other) {
          return other.name == variable.levels[i].name || isBelow(variable.levels[i].name, other.name);
        }))
      return i;
  return std::nullopt;
}

std::optional<std::string> levelLeftOpen(const Study& study) {
  const auto lowest = lowestLevel(study);
  return lowest ? nextLowerLevel(study.variable().kind, study.variable().levels[*lowest].name) : std::nullopt;
}

std::optional<Study> askedFurtherDown(const Study& study) {
  const auto open = levelLeftOpen(study);
  if (!open) return std::nullopt;
  const auto lowest = configurationAt(*lowestLevel(study));
  Study asked = onlyThese(study, {lowest, lowest});
  asked.variable().levels = {study.variable().levels[placeOf(lowest)], levelNamed(*open)};
  asked.variable().baseline = 0;
  forgetParts(asked);
  asked.plan.drawn.clear();
  asked.plan.looks.clear();
  return asked;
}

}  // namespace core
