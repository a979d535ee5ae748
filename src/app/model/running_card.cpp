
#include "app/model/hand_card.h"
#include "app/model/study_model.h"
#include "core/estimate/wording.h"

namespace app {
namespace {

using session::PlayedStretch;
using session::State;

QString alone() { return tr("Leave the machine alone: no other work, no mouse, no updates."); }

QString passText(const StudyModel& study, const core::Slot& slot) {
  int in_visit = 0;
  for (const core::PlannedVisit& visit : core::visitsOf(study.study()))
    if (visit.number == slot.visit) in_visit = slot.is_warm_up ? study.study().plan.warm_ups : visit.passes;
  return tr("%1 · visit %2 · %3 %4 of %5")
      .arg(toQt(study.study().nameOf(slot.configuration)))
      .arg(slot.visit)
      .arg(slot.is_warm_up ? tr("warm-up") : tr("pass"))
      .arg(slot.number)
      .arg(in_visit);
}

// How a player says that the counted stretch begins.
QString beginning(const QString& key) {
  const QString pressed = tr("press “Count from here”: %1 s later counting begins").arg(session::kLeadInS);
  if (key.isEmpty()) return pressed;
  return tr("press %1 without leaving the program: counting begins at once. Or %2").arg(key, pressed);
}

HandCard waitingForPlayer(const StudyModel& study, const core::Slot& slot, const QString& key) {
  const core::Case& a_case = study.study().cases[slot.case_index];
  HandCard card;
  card.title = tr("Play %1").arg(toQt(a_case.title()));
  card.line = passText(study, slot);
  card.steps << tr("The route, the same each time: %1").arg(toQt(a_case.route));
  card.steps << tr("Start it, go to where the route begins, then %1. It counts for %2 s.")
                    .arg(beginning(key))
                    .arg(a_case.played_s);
  card.caution =
      tr("Play as your users would, not better towards the end. Cards, coolers and drives are hot after a "
         "pass.");
  return card;
}

HandCard playing(const StudyModel& study, const core::Slot& slot, const PlayedStretch& stretch, const QString& key) {
  const core::Case& a_case = study.study().cases[slot.case_index];
  const double at_s = study.session().pass().secondsInPass();
  HandCard card;
  card.line = passText(study, slot);
  card.steps << toQt(a_case.route);
  switch (stretch.phase(at_s)) {
    case PlayedStretch::Phase::Waiting:
      card.title = tr("Go to where the route begins");
      card.steps << tr("There, %1.").arg(beginning(key));
      break;
    case PlayedStretch::Phase::LeadIn:
      card.title = tr("Counting begins in %1 s").arg(stretch.secondsLeft(at_s), 0, 'f', 0);
      break;
    case PlayedStretch::Phase::Counting:
      card.title = tr("Counting: %1 s left").arg(stretch.secondsLeft(at_s), 0, 'f', 0);
      if (!key.isEmpty()) card.steps << tr("%1 ends it earlier.").arg(key);
      break;
    case PlayedStretch::Phase::Over: card.title = tr("Played. Ending the workload"); break;
  }
  return card;
}

}  // namespace

HandCard runningCardOf(const StudyModel& study, const QString& players_key) {
  const session::Session& session = study.session();
  const auto next = session.nextSlot();
  // After the last pass only the last measurement is left.
  const core::Slot& slot = session.open().schedule()[next.value_or(session.open().schedule().size() - 1)];
  const QString level = toQt(study.study().nameOf(slot.configuration));
  HandCard card;
  card.line = tr("%1 · visit %2").arg(level).arg(slot.visit);
  card.caution = alone();
  switch (session.state()) {
    case State::SettingLevel:
      card.title = study.study().variables.size() == 1
                       ? tr("Setting %1 to %2").arg(toQt(study.study().variable().name), level)
                       : tr("Setting %1").arg(level);
      card.caution.clear();
      return card;
    case State::Settling:
      card.title = tr("Let the bench settle");
      card.line += tr(" · at most %1 left").arg(toQt(core::durationText(session.secondsToRest())));
      return card;
    case State::AwaitingQuiet:
      card.title = tr("Waiting until other programs keep still");
      card.line += tr(" · at most %1 left").arg(toQt(core::durationText(session.secondsToRest())));
      return card;
    case State::Testing:
      card.title = tr("Testing %1 for errors").arg(level);
      card.caution = tr("On an error this level is recorded as not reachable. ") + alone();
      return card;
    case State::Measuring:
      card.title = tr("Measuring what %1 yields")
                       .arg(toQt(study.study().nameOf(session.recorded().visits.back().configuration)));
      card.line = tr("Visit %1").arg(session.recorded().visits.back().planned);
      return card;
    case State::AwaitingPlayer: return waitingForPlayer(study, slot, players_key);
    case State::AwaitingResult:
      card.title = tr("Run %1 and type its result").arg(toQt(study.study().cases[slot.case_index].title()));
      card.line = passText(study, slot);
      return card;
    default: break;
  }
  if (const PlayedStretch* stretch = session.pass().stretch()) return playing(study, slot, *stretch, players_key);
  card.title = toQt(study.study().cases[slot.case_index].title());
  card.line = passText(study, slot);
  card.caution = alone() + tr(" Cards, coolers and drives are hot after a pass.");
  return card;
}

}  // namespace app
