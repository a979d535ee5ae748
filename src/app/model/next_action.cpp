#include "app/model/next_action.h"

#include <algorithm>

#include "core/findings/derived_studies.h"
#include "core/findings/headline.h"

namespace app {
namespace {

NextAction whilePlaying(const session::PlayedStretch& stretch, double at_s) {
  using Stretch = session::PlayedStretch;
  switch (stretch.phase(at_s)) {
    case Stretch::Phase::Waiting:
      return {NextIntent::BeginStretch, tr("Count from here"), tr("Counting begins a few seconds later."), true};
    case Stretch::Phase::Counting:
      return {NextIntent::EndStretch, tr("End the counting now"), tr("What was counted so far is the pass."), true};
    default: return {NextIntent::None, tr("Play"), tr("The countdown runs by itself."), false};
  }
}

NextAction whileRunning(const session::Session& session) {
  if (session.isStopping())
    return {NextIntent::None, tr("Stopping after this pass"), tr("The pass in hand is finished and filed first."),
            false};
  if (session.state() == session::State::AwaitingPlayer)
    return {NextIntent::StartPlaying, tr("Start the workload"), tr("Then go to where the route begins."), true};
  if (session.state() == session::State::AwaitingResult)
    return {NextIntent::TypeResults, tr("Type the result"), tr("Run the pass, then type what it shows."), true};
  if (const session::PlayedStretch* stretch = session.pass().stretch())
    return whilePlaying(*stretch, session.pass().secondsInPass());
  return {NextIntent::StopAfterPass, tr("Stop after this pass"),
          tr("The pass in hand is finished and filed; go on at any time."), true};
}

// While a stop stands the next thing is its remedy: first to see it, then to decide.
NextAction atStop(const core::Doubt& stop, core::Place place) {
  const QString sentence = toQt(stop.sentence);
  if (place != stop.place) return {NextIntent::ShowStop, tr("See what stands in the way"), sentence, true};
  return {NextIntent::AcceptStop, tr("Accept it with a reason"), sentence + tr(". ") + toQt(stop.remedy), true};
}

NextAction whenDone(const StudyModel& model, core::Place place) {
  if (model.judgement().claim.is_stopped) return atStop(model.judgement().doubts.front(), place);
  if (place != core::Place::Findings)
    return {NextIntent::ReadFindings, tr("Read the findings"), tr("Every pass of the plan is in."), true};
  const int failed = model.judgement().findings.failed_passes;
  if (failed > 0)
    return {NextIntent::RepeatFailed,
            failed == 1 ? tr("Repeat the failed pass") : tr("Repeat %1 failed passes").arg(failed),
            tr("Failed passes stay on record; each gets one more attempt."), true};
  if (const auto& extension = model.judgement().extension;
      extension && !core::isSettled(core::headlineVerdict(model.study(), model.judgement().findings)))
    return {
        NextIntent::Extend,
        extension->rounds == 1 ? tr("Extend once by 1 round") : tr("Extend once by %1 rounds").arg(extension->rounds),
        tr("The interval would be about ±%1 % instead of ±%2 %; sized from the spread, not from the effect.")
            .arg(extension->extended_half_width_percent, 0, 'f', 1)
            .arg(extension->half_width_percent, 0, 'f', 1),
        true};
  return {NextIntent::NewFromThis, tr("Ask the next question"), tr("A new study that starts from this one."), true};
}

// At a planned look a person decides once: stop where it is settled, else go on.
std::optional<NextAction> atLook(const StudyModel& model, core::Place place) {
  if (!model.judgement().look || !model.session().nextSlot()) return std::nullopt;
  if (place != core::Place::Findings)
    return NextAction{NextIntent::ReadFindings, tr("Look at the findings"),
                      tr("An interim look that was chosen with the plan."), true};
  if (!core::isSettled(core::headlineVerdict(model.study(), model.judgement().findings))) return std::nullopt;
  return NextAction{NextIntent::StopAtLook, tr("Stop here: it is settled"),
                    tr("The plan allows stopping at this interim look. Bench work > Start goes on instead."), true};
}

NextAction toStart(const StudyModel& model) {
  const session::Session& session = model.session();
  const core::Slot& slot = session.open().schedule()[*session.nextSlot()];
  const QString level = toQt(model.study().nameOf(slot.configuration));
  if (const std::string& there = model.study().ssh_name; !there.empty())
    return {NextIntent::StartThere, (slot.visit == 1 ? tr("Start it at %1") : tr("Go on at %1")).arg(toQt(there)),
            tr("Its sheet runs there, also while nobody is connected; it is followed beside this window."), true};
  const bool is_held = session.state() == session::State::Held;
  if (is_held && session.problem()->kind == core::ErrorKind::NotAtLevel)
    return {NextIntent::Start, tr("Set it and look again"), toQt(session.problem()->sentence()), true};
  if (is_held) return {NextIntent::Start, tr("Try again: %1").arg(level), toQt(session.problem()->sentence()), true};
  const bool is_begun = !session.recorded().passes.empty();
  const QString text = is_begun ? tr("Go on: visit %1, %2") : tr("Start visit %1, %2");
  return {NextIntent::Start, text.arg(slot.visit).arg(level),
          tr("Runs the sheet to its end; it can be stopped at any time."), true};
}

}  // namespace

NextAction nextActionOf(const StudyModel& model, core::Place place) {
  if (!model.hasStudy())
    return {NextIntent::OpenDemo, tr("Open the demo"), tr("A finished study on a simulated bench."), true};
  const session::Session& session = model.session();
  if (session.isRunning()) return whileRunning(session);
  const auto& missed = model.judgement().unreachable;
  if (const auto lower = missed.empty() ? std::nullopt : core::lowerLevelFor(model.study(), missed.back());
      lower && !model.judgement().claim.has_result)
    return {NextIntent::AskLower, tr("Ask it with %1 instead").arg(toQt(*lower)),
            tr("A new study that starts from this one, with the next lower level."), true};
  if (!model.problems().empty())
    return {NextIntent::CompleteQuestion, tr("Complete the question"), toQt(model.problems().front().sentence()), true};
  if (!session.nextSlot()) return whenDone(model, place);
  if (const auto unapproved = session.machine().unapprovedActs(); !unapproved.empty()) {
    const auto count = static_cast<int>(unapproved.size());
    const bool are_commands = std::all_of(unapproved.begin(), unapproved.end(),
                                          [](const session::Act& act) { return !act.exact.command.empty(); });
    const QString commands = !are_commands
                                 ? (count == 1 ? tr("1 command or setting") : tr("%1 commands and settings").arg(count))
                             : count == 1 ? tr("1 command")
                                          : tr("%1 commands").arg(count);
    if (place == core::Place::RunSheet)
      return {NextIntent::ApproveCommands, tr("Approve %1").arg(commands),
              tr("Only if you know and trust every one of them."), true};
    return {NextIntent::ShowCommands, tr("Read %1 to approve").arg(commands),
            tr("Nothing is started that nobody here has approved."), true};
  }
  if (const auto look = atLook(model, place)) return *look;
  return toStart(model);
}

}  // namespace app
