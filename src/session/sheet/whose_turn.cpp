#include "session/sheet/whose_turn.h"

#include <algorithm>

#include "core/proof/contradiction.h"
#include "core/record/flip_guide.h"
#include "core/record/looks.h"

namespace session {
namespace {

// Was a visit to be measured once more after it began? Told by its passes where it has any, and else by the time at the
// desk, where that is decided: its clock may not be the bench's.
bool isToBeRepeated(const store::Recorded& recorded, const core::Visit& visit) {
  std::int64_t last_pass_id = 0;
  for (const core::Pass& pass : recorded.passes)
    if (pass.visit_id == visit.id) last_pass_id = std::max(last_pass_id, pass.id);
  const std::int64_t begun_ms = store::benchClockOf(recorded).atDesk(visit.started_ms);
  return std::any_of(recorded.events.begin(), recorded.events.end(), [&](const store::Event& event) {
    const auto* act = std::get_if<core::VisitRepeated>(&event.act);
    if (act == nullptr || act->visit != visit.planned) return false;
    return last_pass_id > 0 ? act->last_pass_id >= last_pass_id : event.at_ms >= begun_ms;
  });
}

}  // namespace

bool isVisitInHand(const OpenStudy& open, const core::Slot& slot, const std::string& boot) {
  const core::Visit* last = open.visit();
  if (!last || last->planned != slot.visit || last->boot_id != boot) return false;
  const auto& captures = open.recorded().captures;
  const bool is_ended = std::any_of(captures.begin(), captures.end(), [&](const core::VisitCapture& one) {
    return one.visit_id == last->id && one.moment == core::CaptureMoment::End;
  });
  return !is_ended && !isToBeRepeated(open.recorded(), *last) &&
         !core::contradictionOf(open.study(), store::recordOf(open.recorded()), *last);
}

// Whoever was told that the bench is not at the level of a visit has been asked for it: the visit itself ends nothing.
bool wasAskedFor(const OpenStudy& open, const core::Slot& slot) {
  std::int64_t since_ms = 0;
  for (const core::Visit& visit : open.recorded().visits)
    if (visit.planned != slot.visit) since_ms = visit.started_ms;
  const auto& events = open.recorded().events;
  return std::any_of(events.begin(), events.end(), [&](const store::Event& event) {
    const auto* asked = std::get_if<core::LevelAsked>(&event.act);
    return asked != nullptr && asked->visit == slot.visit && event.at_ms >= since_ms;
  });
}

bool isLevelForAPerson(const OpenStudy& open, const core::Slot& slot) {
  const auto before = open.visit() ? std::optional(*open.visit()) : std::nullopt;
  return core::isFlippedByHand(open.study(), slot.configuration, before) ||
         core::raisesLimits(core::setupOf(open.study(), slot.configuration));
}

bool waitsForPerson(const OpenStudy& open, const Machine& machine) {
  const auto next = open.nextSlot();
  if (!next) return false;
  const core::Slot& slot = open.schedule()[*next];
  const core::Case& a_case = open.caseOf(*next);
  if (a_case.source == core::ResultSource::ByHand || a_case.is_played) return true;
  if (isVisitInHand(open, slot, machine.boot())) return false;
  if (open.visit() && open.visit()->planned == slot.visit &&
      core::contradictionOf(open.study(), store::recordOf(open.recorded()), *open.visit()))
    return true;
  return isLevelForAPerson(open, slot) || core::followsLook(open.study(), open.schedule(), *next);
}

}  // namespace session
