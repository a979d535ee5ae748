#include "app/model/local_sheet_work.h"

#include "app/model/qt_text.h"
#include "core/record/flip_guide.h"
#include "session/sheet/whose_turn.h"
#include "session/study/sheet_time.h"

namespace app {
namespace {

using Phase = WorkStanding::Phase;
using session::State;

// What the card in hand says, in one line.
QString waitsFor(const session::Session& session) {
  const core::Study& study = session.study();
  const core::Slot& slot = session.open().schedule()[*session.nextSlot()];
  const QString level = toQt(study.nameOf(slot.configuration));
  const QString title = toQt(study.cases[slot.case_index].title());
  if (session.state() == State::AwaitingPlayer) return tr("open it, and play %1").arg(title);
  if (session.state() == State::AwaitingResult || study.cases[slot.case_index].source == core::ResultSource::ByHand)
    return tr("open it, run %1 and type its result").arg(title);
  const auto& visits = session.recorded().visits;
  const core::FlipGuide guide =
      core::flipGuide(study, slot.configuration, visits.empty() ? std::nullopt : std::optional(visits.back()));
  return guide.steps.empty() ? tr("go on with %1").arg(level) : tr("bring it to %1 by hand").arg(level);
}

}  // namespace

LocalSheetWork::LocalSheetWork(std::unique_ptr<session::Session> session) : session_(std::move(session)) {
  connect(session_.get(), &session::Session::stateChanged, this, &SheetWork::changed);
  connect(session_.get(), &session::Session::passFiled, this, &SheetWork::filed);
}

WorkStanding LocalSheetWork::standing() const {
  const session::Session& session = *session_;
  WorkStanding standing;
  standing.planned = static_cast<int>(session.open().schedule().size());
  standing.filed = settledPasses(session.open().ledger());
  if (const auto next = session.nextSlot()) {
    standing.hand = passInHand(session.study(), session.open().schedule()[*next]);
    standing.seconds_left = session::secondsLeft(session.open(), session.pass().secondsInPass());
  }
  const bool waits = session.nextSlot() && session::waitsForPerson(session.open(), session.machine());
  if (session.state() == State::Held) {
    const core::ErrorKind kind = session.problem()->kind;
    standing.phase = kind == core::ErrorKind::NotAtLevel    ? Phase::WaitsForPerson
                     : kind == core::ErrorKind::NotApproved ? Phase::AsksApproval
                                                            : Phase::Failed;
    standing.words = toQt(session.problem()->sentence());
  } else if (session::awaitsPerson(session.state())) {
    standing.phase = Phase::WaitsForPerson;
    standing.words = waitsFor(session);
  } else if (session.isRunning()) {
    standing.phase = session.isStopping() ? Phase::Stopping : Phase::Running;
  } else if (!session.nextSlot()) {
    standing.phase = Phase::Done;
  } else if (!session.machine().unapprovedActs().empty()) {
    standing.phase = Phase::AsksApproval;
    standing.words = tr("read what it starts, and approve it");
  } else if (waits) {
    standing.phase = Phase::WaitsForPerson;
    standing.words = waitsFor(session);
  }
  return standing;
}

QStringList LocalSheetWork::toApprove() const {
  QStringList sentences;
  for (const session::Act& act : session_->machine().unapprovedActs()) sentences << toQtWhole(act.sentence());
  return sentences;
}

}  // namespace app
