#include "core/record/flip_guide.h"

#include <fmt/format.h>

#include "core/machine/variable_kind.h"
#include "core/record/performed_flips.h"

namespace core {

FlipGuide flipGuide(const Study& study, Side to, const std::optional<Visit>& before) {
  FlipGuide guide;
  const VariableKind* kind = findVariableKind(study.kind);
  if (!kind || !isSetByHand(study)) return guide;
  const Level& level = study.level(to);
  const bool is_there_already = before && before->side == to;
  // Two visits at one level are two only if the level was set anew in between: that is what a flip adds.
  if (is_there_already && doesFlipRestart(study))
    guide.steps.push_back(fmt::format("Restart, and set {} again: only then do visit {} and the next count as two",
                                      level.name, before->planned));
  else if (is_there_already)
    guide.steps.push_back(fmt::format("Leave {}, and set it again: only then do visit {} and the next count as two",
                                      level.name, before->planned));
  for (const std::string_view step : kind->steps) guide.steps.emplace_back(step);
  if (!level.menu_path.empty()) guide.steps.push_back("On this bench it is found at: " + level.menu_path);
  guide.steps.push_back(fmt::format("The bench must be at {} before you start: the capture will show it.", level.name));
  for (const std::string_view caution : kind->cautions) guide.cautions.emplace_back(caution);
  return guide;
}

}  // namespace core
