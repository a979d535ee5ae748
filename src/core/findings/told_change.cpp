#include "core/findings/told_change.h"

#include "core/estimate/wording.h"

namespace core {

bool ToldChange::doesExcludeZero() const {
  if (improvement && improvement->interval) return improvement->interval->lo > 0 || improvement->interval->hi < 0;
  if (difference && difference->interval) return difference->interval->first > 0 || difference->interval->second < 0;
  return false;
}

std::string ToldChange::changeText(const std::string& unit) const {
  if (improvement) return core::changeText(*improvement);
  return difference ? unitChangeText(*difference, unit) : std::string();
}

ToldChange toldChangeOf(const Contrast& improvement, bool is_log, Direction direction) {
  ToldChange told;
  if (is_log) {
    told.improvement = percentChangeOf(improvement);
    return told;
  }
  const Contrast own = *onImprovementScale(improvement, direction);  // turned back
  told.difference = UnitChange{own.difference, {}};
  if (own.inference) told.difference->interval = {own.inference->lo, own.inference->hi};
  return told;
}

}  // namespace core
