#include "core/study/asked_contrasts.h"

#include <algorithm>
#include <array>
#include <map>

#include <fmt/format.h>

namespace core {
namespace {

AskedContrast difference(const Study& study, ContrastKind kind, std::string variable, PairOf pair) {
  AskedContrast asked;
  asked.kind = kind;
  asked.variable = std::move(variable);
  asked.weights = differenceWeights(study.configurationCount(), placeOf(pair.from), placeOf(pair.to));
  asked.pair = pair;
  return asked;
}

// Names of levels where one variable moves.
AskedContrast levelDifference(const Study& study, ContrastKind kind, const Variable& variable, std::size_t from,
                              std::size_t to, PairOf pair) {
  AskedContrast asked = difference(study, kind, variable.name, pair);
  asked.from = variable.levels[from].name;
  asked.to = variable.levels[to].name;
  return asked;
}

std::vector<AskedContrast> ofLadder(const Study& study) {
  const Variable& variable = study.variable();
  std::vector<AskedContrast> asked;
  for (std::size_t level = 0; level < variable.levels.size(); ++level)
    if (level != variable.baseline)
      asked.push_back(levelDifference(study, ContrastKind::AgainstBaseline, variable, variable.baseline, level,
                                      {configurationAt(variable.baseline), configurationAt(level)}));
  if (study.shape == Shape::Pair) return asked;
  for (std::size_t level = 1; level < variable.levels.size(); ++level)
    asked.push_back(levelDifference(study, ContrastKind::Neighbour, variable, level - 1, level,
                                    {configurationAt(level - 1), configurationAt(level)}));
  return asked;
}

std::string movedNames(const Study& study, PairOf pair) {
  std::string names;
  for (const std::size_t one : movedBetween(study, pair.from, pair.to))
    names += (names.empty() ? "" : " and ") + study.variables[one].name;
  return names;
}

AskedContrast betweenConfigurations(const Study& study, ContrastKind kind, PairOf pair) {
  AskedContrast one = difference(study, kind, movedNames(study, pair), pair);
  one.from = study.nameOf(pair.from);
  one.to = study.nameOf(pair.to);
  return one;
}

std::vector<AskedContrast> ofChain(const Study& study) {
  std::vector<AskedContrast> asked;
  const std::size_t count = study.configurationCount();
  for (std::size_t i = 1; i < count; ++i)
    asked.push_back(betweenConfigurations(study, ContrastKind::Step, {configurationAt(i - 1), configurationAt(i)}));
  asked.push_back(totalOf(study, {configurationAt(0), configurationAt(count - 1)}));
  return asked;
}

Study studyOfTwo(const Study& study) {
  Study two = study;
  two.shape = Shape::Pair;
  two.configurations.clear();
  return two;
}

void nameBoth(const Study& study, PairOf pair, Variable& variable) {
  variable.levels[0].name = study.nameOf(pair.from);
  variable.levels[1].name = study.nameOf(pair.to);
  variable.baseline = 0;
}

// Two variables, asked in both directions.
class Crossing {
 public:
  explicit Crossing(const Study& study) : study_(study) {
    for (const ConfigurationId one : configurationsOf(study)) {
      const auto levels = study.levelsAt(one);
      cells_[{levels[0], levels[1]}] = one;
    }
  }

  std::vector<AskedContrast> all() {
    for (const std::size_t moved : {0U, 1U}) addSimple(moved);
    if (cells_.size() == levelsOf(0) * levelsOf(1))
      for (const std::size_t moved : {0U, 1U}) addMain(moved);
    addInteractions();
    return std::move(asked_);
  }

 private:
  [[nodiscard]] std::size_t levelsOf(std::size_t variable) const { return study_.variables[variable].levels.size(); }

  // The cell at a level of the variable that moves, and one of the other.
  [[nodiscard]] std::optional<ConfigurationId> cell(std::size_t moved, std::size_t level, std::size_t other) const {
    const auto found = cells_.find(moved == 0 ? std::pair{level, other} : std::pair{other, level});
    return found == cells_.end() ? std::nullopt : std::optional(found->second);
  }

  void addSimple(std::size_t moved) {
    const Variable& variable = study_.variables[moved];
    const Variable& other = study_.variables[1 - moved];
    if (variable.is_group) return;
    for (std::size_t b = 0; b < other.levels.size(); ++b)
      for (std::size_t a = 0; a < variable.levels.size(); ++a) {
        const auto from = cell(moved, variable.baseline, b);
        const auto to = cell(moved, a, b);
        if (a == variable.baseline || !from || !to) continue;
        asked_.push_back(levelDifference(study_, ContrastKind::Simple, variable, variable.baseline, a, {*from, *to}));
        asked_.back().at = other.levels[b].name;
      }
  }

  // The mean of the simple effects.
  void addMain(std::size_t moved) {
    const Variable& variable = study_.variables[moved];
    if (variable.is_group) return;
    const std::size_t others = levelsOf(1 - moved);
    for (std::size_t a = 0; a < variable.levels.size(); ++a) {
      if (a == variable.baseline) continue;
      AskedContrast asked{ContrastKind::Main,
                          variable.name,
                          variable.levels[variable.baseline].name,
                          variable.levels[a].name,
                          {},
                          {},
                          std::vector<double>(cells_.size(), 0),
                          {}};
      for (std::size_t b = 0; b < others; ++b) {
        asked.weights[placeOf(*cell(moved, a, b))] += 1.0 / static_cast<double>(others);
        asked.weights[placeOf(*cell(moved, variable.baseline, b))] -= 1.0 / static_cast<double>(others);
      }
      asked_.push_back(std::move(asked));
    }
  }

  // Does the effect depend on the other variable's level? Of a group and a variable, the variable's effect.
  void addInteractions() {
    const std::size_t moved = study_.variables[0].is_group ? 1 : 0;
    const Variable& a_variable = study_.variables[moved];
    const Variable& b_variable = study_.variables[1 - moved];
    for (std::size_t b = 0; b < b_variable.levels.size(); ++b)
      for (std::size_t a = 0; a < a_variable.levels.size(); ++a) {
        if (a == a_variable.baseline || b == b_variable.baseline) continue;
        const auto ab = cell(moved, a, b);
        const auto b_alone = cell(moved, a_variable.baseline, b);
        const auto a_alone = cell(moved, a, b_variable.baseline);
        const auto none = cell(moved, a_variable.baseline, b_variable.baseline);
        if (!ab || !b_alone || !a_alone || !none) continue;
        AskedContrast asked{ContrastKind::Interaction,
                            a_variable.name,
                            a_variable.levels[a_variable.baseline].name,
                            a_variable.levels[a].name,
                            b_variable.levels[b].name,
                            b_variable.levels[b_variable.baseline].name,
                            std::vector<double>(cells_.size(), 0),
                            {}};
        for (const auto& [one, weight] : {std::pair{*ab, 1.0}, {*b_alone, -1.0}, {*a_alone, -1.0}, {*none, 1.0}})
          asked.weights[placeOf(one)] += weight;
        asked_.push_back(std::move(asked));
      }
  }

  const Study& study_;
  std::map<std::pair<std::size_t, std::size_t>, ConfigurationId> cells_;
  std::vector<AskedContrast> asked_;
};

}  // namespace

const char* contrastKindName(ContrastKind kind) {
  switch (kind) {
    case ContrastKind::AgainstBaseline: return "against_baseline";
    case ContrastKind::Neighbour: return "neighbour";
    case ContrastKind::Simple: return "simple";
    case ContrastKind::Main: return "main";
    case ContrastKind::Interaction: return "interaction";
    case ContrastKind::Step: return "step";
    case ContrastKind::Total: return "total";
  }
  return "unknown";
}

std::vector<AskedContrast> contrastsOf(const Study& study) {
  switch (study.shape) {
    case Shape::Pair:
    case Shape::Ladder: return ofLadder(study);
    case Shape::Crossed: return Crossing(study).all();
    case Shape::Chain: return ofChain(study);
  }
  return {};
}

AskedContrast totalOf(const Study& study, PairOf pair) {
  return betweenConfigurations(study, ContrastKind::Total, pair);
}

PairOf headlinePair(const Study& study) {
  const std::size_t last = study.configurationCount() - 1;
  if (study.shape == Shape::Ladder) {
    const std::size_t baseline = study.variable().baseline;
    return {configurationAt(baseline), configurationAt(baseline == last ? 0 : last)};
  }
  if (study.shape == Shape::Crossed)
    for (const AskedContrast& asked : contrastsOf(study))
      if (asked.pair) return *asked.pair;
  return {configurationAt(0), configurationAt(last)};
}

std::vector<PairOf> stepsOf(const Study& study) {
  std::vector<PairOf> steps;
  for (const AskedContrast& asked : contrastsOf(study)) {
    const bool is_step = asked.kind == ContrastKind::Neighbour || asked.kind == ContrastKind::Step ||
                         asked.kind == ContrastKind::Simple || study.shape == Shape::Pair;
    if (is_step && asked.pair && std::find(steps.begin(), steps.end(), *asked.pair) == steps.end())
      steps.push_back(*asked.pair);
  }
  return steps;
}

Study pairStudyOf(const Study& study, PairOf pair) {
  const auto moved = movedBetween(study, pair.from, pair.to);
  if (study.shape == Shape::Pair) return study;
  if (moved.size() == 1) return pairStudyOf(study, pair, moved.front());
  Study two = studyOfTwo(study);
  two.variables = {Variable{}};
  Variable& variable = two.variable();
  variable.name = movedNames(study, pair);
  variable.levels = {Level{}, Level{}};
  nameBoth(study, pair, variable);
  return two;
}

Study pairStudyOf(const Study& study, PairOf pair, std::size_t moved) {
  if (study.shape == Shape::Pair) return study;
  Study two = studyOfTwo(study);
  two.variables = {study.variables[moved]};
  Variable& variable = two.variable();
  variable.levels = {study.variables[moved].levels[study.levelsAt(pair.from)[moved]],
                     study.variables[moved].levels[study.levelsAt(pair.to)[moved]]};
  const auto expected = expectedReadings(two);  // by the levels' own names, not by those of configurations
  for (std::size_t i = 0; i < 2; ++i) variable.levels[i].reads = expected[i];
  nameBoth(study, pair, variable);
  return two;
}

std::string contrastName(const AskedContrast& asked) {
  const std::string name = fmt::format("{} to {}", asked.from, asked.to);
  if (!asked.against.empty()) return fmt::format("{}, {} against {}", name, asked.at, asked.against);
  return asked.at.empty() ? name : fmt::format("{}, at {}", name, asked.at);
}

}  // namespace core
