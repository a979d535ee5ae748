#include "session/study/checklist.h"

#include <algorithm>

#include "core/record/flip_guide.h"

namespace session {

std::vector<ChecklistPoint> dueChecklist(const OpenStudy& open) {
  std::vector<ChecklistPoint> points;
  const auto next = open.nextSlot();
  if (!next) return points;
  const core::Slot& slot = open.schedule()[*next];
  // Of a visit that is begun the bench came from the one before.
  std::optional<core::Visit> from;
  for (const core::Visit& visit : open.recorded().visits)
    if (visit.planned != slot.visit && !visit.is_taken) from = visit;
  const std::vector<std::string> checklist = core::flipGuide(open.study(), slot.configuration, from).checklist;
  if (checklist.empty()) return points;  // most have none, and the card is drawn often
  const auto ticked = store::recordOf(open.recorded()).ticked;
  const auto done = ticked.find(slot.visit);
  for (const std::string& point : checklist)
    points.push_back({point, done != ticked.end() && done->second.contains(point)});
  return points;
}

core::Status tick(OpenStudy& open, const std::string& point, bool is_done) {
  const std::vector<ChecklistPoint> due = dueChecklist(open);
  if (std::any_of(due.begin(), due.end(), [&](const ChecklistPoint& one) { return one.text == point; }))
    return open.note(core::PointTicked{open.schedule()[*open.nextSlot()].visit, point, is_done});
  std::string known;
  for (const ChecklistPoint& one : due) known += (known.empty() ? "" : "; ") + one.text;
  return core::Error{core::ErrorKind::Missing, "the checklist for the flip that is due has no such point", point,
                     due.empty() ? "It has none" : "Its points are: " + known};
}

}  // namespace session
