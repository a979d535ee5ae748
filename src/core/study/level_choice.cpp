#include "core/study/level_choice.h"

#include <algorithm>

#include "core/study/reshaped.h"

namespace core {
namespace {

// "memory speed" of "memory speed or profile".
std::string nameOfKind(const VariableKind& kind) {
  const std::string_view title = kind.title;
  return std::string(title.substr(0, std::min(title.find(" or "), title.find(','))));
}

bool isSaid(const Level& level) { return level != Level(); }

std::size_t placeIn(std::span<const Level> levels, const std::string& name) {
  const auto found = std::find_if(levels.begin(), levels.end(), [&](const Level& one) { return one.name == name; });
  return static_cast<std::size_t>(found - levels.begin());
}

// Of a command that comes with a kind: what a person wrote stays, what the kind before brought gives way.
Command givenWay(const Command& now, const Command& before, const Command& wanted) {
  return now.empty() || now == before ? wanted : now;
}

}  // namespace

std::vector<Level> likelyPair(std::span<const Level> offered, std::optional<std::size_t> now) {
  if (offered.size() < 2) return {};
  const std::size_t last = offered.size() - 1;
  const std::size_t lower = std::min(now.value_or(last), last - 1);
  return {offered[lower], offered[lower + 1]};
}

Study withKind(Study study, std::size_t place, const VariableKind* kind, const std::vector<Level>& likely,
               const std::vector<Level>& likely_before) {
  Variable& variable = study.variables.at(place);
  const VariableKind* before = findVariableKind(variable.kind);
  const auto measuring = [&](const VariableKind* one) {
    return one ? suggestedMeasureCommand(*one, variable.device) : Command();
  };
  const auto testing = [](const VariableKind* one) { return one ? suggestedStabilityCommand(*one) : Command(); };
  if (study.machine.empty()) {  // a folder that stands for a bench has its own
    study.measure_command = givenWay(study.measure_command, measuring(before), measuring(kind));
    study.stability_command = givenWay(study.stability_command, testing(before), testing(kind));
  }
  const std::string given = place == 0 ? std::string() : givenVariableName(place);
  if (variable.name.empty() || variable.name == given || (before && variable.name == nameOfKind(*before)))
    variable.name = kind ? nameOfKind(*kind) : given;
  const std::vector<Level> given_levels = place == 0 ? std::vector<Level>(2) : givenLevels();
  const bool are_untouched = std::none_of(variable.levels.begin(), variable.levels.end(), isSaid) ||
                             variable.levels == likely_before || variable.levels == given_levels;
  if (are_untouched && variable.levels.size() == 2) {
    const std::vector<Level>& wanted = likely.empty() ? given_levels : likely;
    for (std::size_t i = 0; i < wanted.size(); ++i) study = withLevel(std::move(study), place, i, wanted[i]);
  }
  const double usual_before = before ? usualFlipMinutes(*before) : PlanningGuess().flip_minutes;
  if (kind && study.plan.guess.flip_minutes == usual_before) study.plan.guess.flip_minutes = usualFlipMinutes(*kind);
  study.variables[place].kind = kind ? std::string(kind->id) : std::string();
  return study;
}

Study withOffered(Study study, std::size_t place, std::span<const Level> offered, std::size_t pressed,
                  const std::string& before) {
  if (!study.configurations.empty()) return study;
  Variable& variable = study.variables.at(place);
  const std::string first = variable.levels.front().name;
  const std::string baseline = variable.levels.at(variable.baseline).name;
  const Level& wanted = offered[pressed];
  std::vector<Level> levels;
  std::copy_if(variable.levels.begin(), variable.levels.end(), std::back_inserter(levels), isSaid);
  const bool was_in = placeIn(levels, wanted.name) < levels.size();
  const bool is_pair = study.shape == Shape::Pair;
  if (!was_in) levels.push_back(wanted);
  if (was_in && !is_pair && levels.size() > 2)
    levels.erase(levels.begin() + static_cast<std::ptrdiff_t>(placeIn(levels, wanted.name)));
  if (is_pair && levels.size() > 2)
    levels.erase(std::find_if(levels.begin(), levels.end(), [&](const Level& one) { return one.name != before; }));
  std::stable_sort(levels.begin(), levels.end(),
                   [&](const Level& a, const Level& b) { return placeIn(offered, a.name) < placeIn(offered, b.name); });
  if (levels.size() < 2) levels.resize(2);
  const std::size_t kept = placeIn(levels, baseline);
  variable.baseline = baseline == first || kept == levels.size() ? 0 : kept;
  variable.levels = std::move(levels);
  return redrawn(std::move(study));
}

}  // namespace core
