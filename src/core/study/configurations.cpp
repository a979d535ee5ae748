#include <algorithm>
#include <array>

#include "core/machine/variable_kind.h"
#include "core/study/study.h"

namespace core {
namespace {

// What a program is started with sets nothing in a firmware's menu, and seats no module.
bool isByHand(const Level& level, const VariableKind* kind) {
  const bool is_given_along = !level.prefix.empty() || !level.environment.empty();
  return level.set_command.empty() && level.writes.empty() && (!is_given_along || (kind && needsHands(*kind)));
}

}  // namespace

const char* shapeName(Shape shape) {
  switch (shape) {
    case Shape::Pair: return "pair";
    case Shape::Ladder: return "ladder";
    case Shape::Crossed: return "crossed";
    case Shape::Chain: return "chain";
  }
  return "unknown";
}

std::size_t Study::configurationCount() const {
  if (!configurations.empty()) return configurations.size();
  std::size_t count = 1;
  for (const Variable& one : variables) count *= one.levels.size();
  return count;
}

std::size_t Study::firstPartCases() const {
  const auto is_second = [](const Case& one) { return one.is_second_part; };
  return static_cast<std::size_t>(std::find_if(cases.begin(), cases.end(), is_second) - cases.begin());
}

// Of a full crossing the last variable's levels follow one another.
std::vector<std::size_t> Study::levelsAt(ConfigurationId configuration) const {
  std::size_t place = placeOf(configuration);
  if (!configurations.empty()) return configurations[place].levels;
  std::vector<std::size_t> levels(variables.size());
  for (std::size_t i = variables.size(); i-- > 0; place /= variables[i].levels.size())
    levels[i] = place % variables[i].levels.size();
  return levels;
}

std::string Study::nameOf(ConfigurationId configuration) const {
  if (!configurations.empty() && !configurations[placeOf(configuration)].name.empty())
    return configurations[placeOf(configuration)].name;
  const std::vector<std::size_t> levels = levelsAt(configuration);
  std::string name;
  for (std::size_t i = 0; i < variables.size(); ++i) name += (i == 0 ? "" : ", ") + variables[i].levels[levels[i]].name;
  return name;
}

ConfigurationId Study::baseline() const {
  if (shape == Shape::Chain) return ConfigurationId{0};
  for (const ConfigurationId one : configurationsOf(*this)) {
    const std::vector<std::size_t> levels = levelsAt(one);
    bool is_baseline = true;
    for (std::size_t i = 0; i < variables.size(); ++i) is_baseline = is_baseline && levels[i] == variables[i].baseline;
    if (is_baseline) return one;
  }
  return ConfigurationId{0};
}

std::vector<ConfigurationId> configurationsOf(const Study& study) {
  std::vector<ConfigurationId> all;
  for (std::size_t place = 0; place < study.configurationCount(); ++place) all.push_back(configurationAt(place));
  return all;
}

std::optional<ConfigurationId> findConfiguration(const Study& study, std::string_view name) {
  for (const ConfigurationId one : configurationsOf(study))
    if (study.nameOf(one) == name) return one;
  return std::nullopt;
}

Setup setupOf(const Study& study, ConfigurationId configuration) {
  Setup setup;
  setup.name = study.nameOf(configuration);
  const std::vector<std::size_t> levels = study.levelsAt(configuration);
  const auto append = [](auto& to, const auto& from) { to.insert(to.end(), from.begin(), from.end()); };
  for (std::size_t i = 0; i < study.variables.size(); ++i) {
    const Level& level = study.variables[i].levels[levels[i]];
    append(setup.prefix, level.prefix);
    append(setup.environment, level.environment);
    append(setup.writes, level.writes);
    if (!level.set_command.empty()) setup.set_commands.push_back({{}, level.set_command, {}, level.without});
    if (!level.menu_path.empty()) setup.menu_paths.push_back(level.menu_path);
  }
  return setup;
}

std::vector<std::size_t> movedBetween(const Study& study, ConfigurationId from, ConfigurationId to) {
  const std::vector<std::size_t> before = study.levelsAt(from);
  const std::vector<std::size_t> after = study.levelsAt(to);
  std::vector<std::size_t> moved;
  for (std::size_t i = 0; i < before.size(); ++i)
    if (before[i] != after[i]) moved.push_back(i);
  return moved;
}

bool isSetByHand(const Variable& variable) {
  const VariableKind* kind = findVariableKind(variable.kind);
  return !variable.kind.empty() && std::all_of(variable.levels.begin(), variable.levels.end(),
                                               [&](const Level& level) { return isByHand(level, kind); });
}

bool isSetByHand(const Study& study) {
  return std::any_of(study.variables.begin(), study.variables.end(),
                     [](const Variable& one) { return isSetByHand(one); });
}

bool isFlipGuessed(const Study& study, const Variable& variable) {
  return !variable.flip_minutes && (study.variables.size() == 1 || findVariableKind(variable.kind) == nullptr);
}

double flipMinutes(const Study& study, const Variable& variable) {
  if (isFlipGuessed(study, variable)) return study.plan.guess.flip_minutes;
  return variable.flip_minutes ? *variable.flip_minutes : usualFlipMinutes(*findVariableKind(variable.kind));
}

double flipMinutes(const Study& study, std::optional<ConfigurationId> from, ConfigurationId to) {
  double minutes = 0;
  for (std::size_t i = 0; i < study.variables.size(); ++i)
    if (!from || *from == to || study.levelsAt(*from)[i] != study.levelsAt(to)[i])
      minutes += flipMinutes(study, study.variables[i]);
  return minutes;
}

bool raisesLimits(const Setup& setup) {
  constexpr std::array kLimits{"_power_limit_uw", "/power1_cap", "/pp_od_clk_voltage"};
  return std::any_of(setup.writes.begin(), setup.writes.end(), [&](const SettingWrite& write) {
    return std::any_of(kLimits.begin(), kLimits.end(), [&](const char* limit) { return write.path.ends_with(limit); });
  });
}

}  // namespace core
