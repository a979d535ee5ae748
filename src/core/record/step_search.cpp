#include "core/record/step_search.h"

#include <algorithm>

#include <fmt/format.h>

namespace core {

StepSearch stepSearchOf(const Study& study, std::span<const StepTried> told) {
  const std::size_t steps = study.configurationCount();
  std::size_t ceiling = steps;               // the lowest step that failed
  std::vector<bool> has_held(steps, false);  // on the way up, or, once a step has failed, since then
  for (const StepTried& one : told) {
    const std::size_t place = placeOf(one.configuration);
    if (place >= steps) continue;
    if (one.phase == StepPhase::Held) has_held[place] = true;
    if (one.phase != StepPhase::Failed) continue;
    ceiling = std::min(ceiling, place);
    has_held.assign(steps, false);
  }
  StepSearch search;
  search.is_coming_down = ceiling < steps;
  if (search.is_coming_down) {
    if (ceiling == 0) return search;
    const ConfigurationId below = configurationAt(ceiling - 1);
    (has_held[ceiling - 1] ? search.highest : search.next) = below;
    return search;
  }
  for (std::size_t place = placeOf(study.baseline()); place < steps; ++place)
    if (!has_held[place]) {
      search.next = configurationAt(place);
      return search;
    }
  search.highest = configurationAt(steps - 1);
  return search;
}

std::vector<Error> searchProblems(const Study& study) {
  std::vector<Error> problems = problemsOf(study);
  if (study.shape != Shape::Pair && study.shape != Shape::Ladder)
    problems.push_back({ErrorKind::OutOfRange, "a search goes up the levels of one variable", "shape",
                        "Make a ladder of its steps, from weak to strong"});
  if (study.is_null)
    problems.push_back({ErrorKind::OutOfRange, "a null study has one level only", "levels",
                        "Make a ladder of its steps, from weak to strong"});
  if (study.stability_command.empty())
    problems.push_back({ErrorKind::Missing, "nothing tests a step for errors", "stability_command",
                        "Name a command that ends with 0 where a step works without error"});
  return problems;
}

std::vector<std::string> searchStory(const Study& study, std::span<const StepTried> told) {
  std::vector<std::string> story;
  for (const StepTried& one : told) {
    const std::string name = study.nameOf(one.configuration);
    if (one.phase == StepPhase::Held) story.push_back(fmt::format("{} held: {}", name, one.text));
    if (one.phase == StepPhase::Failed) story.push_back(fmt::format("{} failed: {}", name, one.text));
  }
  return story;
}

std::string searchText(const Study& study, std::span<const StepTried> told) {
  const StepSearch search = stepSearchOf(study, told);
  if (search.next)
    return fmt::format("{} is to be tested next{}", study.nameOf(*search.next),
                       search.is_coming_down ? ", on the way down" : "");
  if (search.highest) return fmt::format("The highest stable step is {}", study.nameOf(*search.highest));
  return "No step is stable, not even the weakest";
}

}  // namespace core
