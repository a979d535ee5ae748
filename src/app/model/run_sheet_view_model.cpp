#include "app/model/run_sheet_view_model.h"

#include <cmath>
#include <map>

#include "core/estimate/wording.h"
#include "session/study/checklist.h"
#include "session/study/sheet_time.h"

namespace app {
QString RunSheetViewModel::heading() const {
  const core::Plan& plan = study_.study().plan;
  const auto visits = static_cast<int>(core::visitsOf(study_.study()).size());
  if (plan.order == core::Order::BalancedShuffle)
    return tr("%1 rounds in a drawn order; %2 in each visit of each case; %3 first")
        .arg(plan.second_part_rounds > 0
                 ? tr("%1 and, for the added cases, %2 more").arg(plan.firstPartRounds()).arg(plan.second_part_rounds)
                 : toQt(std::to_string(plan.rounds)))
        .arg(toQt(core::countText(plan.passes_per_visit, "pass", "passes")),
             toQt(core::countText(plan.warm_ups, "warm-up", "warm-ups")));
  return tr("%1 visits, %2; %3 at each level of each case; %4 in each visit")
      .arg(visits)
      .arg(QString::fromUtf8(core::orderName(plan.order)),
           toQt(core::countText(plan.passes_per_level, "pass", "passes")),
           toQt(core::countText(plan.warm_ups, "warm-up", "warm-ups")));
}

std::vector<VisitCard> RunSheetViewModel::visits() const {
  const session::Session& session = study_.session();
  const auto next = session.nextSlot();
  const auto seconds = session::secondsByVisit(session.open());
  double begins_s = -session.pass().secondsInPass();
  std::vector<bool> is_on_record(session.open().schedule().size(), false);
  for (const core::Pass& pass : session.recorded().passes)
    if (pass.slot < is_on_record.size()) is_on_record[pass.slot] = true;
  std::map<int, std::pair<int, int>> counts;  // of each visit: its slots, and those on record
  for (std::size_t i = 0; i < session.open().schedule().size(); ++i) {
    auto& [slot_count, recorded] = counts[session.open().schedule()[i].visit];
    ++slot_count;
    recorded += is_on_record[i] ? 1 : 0;
  }
  std::vector<VisitCard> cards;
  const std::int64_t now_ms = session.open().now();
  const core::BenchClock clock = store::benchClockOf(session.recorded());
  for (const core::PlannedVisit& planned : core::visitsOf(study_.study())) {
    const auto [slot_count, recorded] = counts[planned.number];
    VisitCard card;
    card.title = tr("Visit %1 · %2").arg(planned.number).arg(toQt(study_.study().nameOf(planned.configuration)));
    card.words = recorded == slot_count && slot_count > 0
                     ? tr("%1, done").arg(toQt(core::countText(slot_count, "pass", "passes")))
                     : tr("%1 of %2 passes").arg(recorded).arg(slot_count);
    for (const core::Visit& visit : session.recorded().visits)
      if (visit.planned == planned.number && card.clock.isEmpty())
        card.clock = clockText(clock.atDesk(visit.started_ms)).left(5);
    const auto ahead = seconds.find(planned.number);
    if (card.clock.isEmpty() && ahead != seconds.end())  // as it will be if it goes on as it went so far
      card.clock = tr("~%1").arg(clockText(now_ms + static_cast<std::int64_t>(1000 * std::max(0.0, begins_s))).left(5));
    if (ahead != seconds.end()) begins_s += ahead->second;
    if (next && session.open().schedule()[*next].visit == planned.number)
      card.state = VisitCard::State::InHand;
    else if (recorded == slot_count && slot_count > 0)
      card.state = VisitCard::State::Done;
    cards.push_back(card);
  }
  return cards;
}

HandCard RunSheetViewModel::approvalCard() const {
  HandCard card;
  card.title = tr("Read what will be started");
  card.line =
      tr("Nobody on this machine has approved these. Commands run as you, in the study's folder, without a shell; "
         "settings are written into the kernel's own files and put back after each visit.");
  for (const session::Act& act : study_.session().machine().unapprovedActs())
    card.commands << toQtWhole(act.sentence());
  card.caution =
      tr("A study from elsewhere can start any program and change any setting. Approve only what you know; what "
         "changes later is asked again. Press “%1” above when you have read them.")
          .arg(tr("Approve"));
  return card;
}

// How the bench comes to a level: by a person, step by step, or by the program.
void RunSheetViewModel::addFlipSteps(HandCard& card, const core::Setup& setup) const {
  for (const std::string& step : guide().steps) card.steps << toQt(step);
  if (!card.steps.isEmpty()) return;
  for (const core::SettingWrite& write : setup.writes)
    card.steps << tr("The program sets it itself and puts it back after the visit: %1")
                      .arg(toQt(core::displayText({{}, {}, write})));
  for (const core::ExactCommand& command : setup.set_commands)
    card.steps << tr("The program sets the level itself: %1").arg(toQt(core::displayText(command)));
  if (!setup.set_commands.empty()) return;
  if (!setup.prefix.empty() || !setup.environment.empty())
    card.steps << tr("The level is part of each pass's command; nothing is to be set by hand.");
  else if (setup.writes.empty())
    card.steps << tr("At this level nothing is changed.");
}

core::FlipGuide RunSheetViewModel::guide() const {
  const session::Session& session = study_.session();
  const auto& visits = session.recorded().visits;
  const auto next = session.nextSlot();
  if (!next) return {};
  return core::flipGuide(study_.study(), session.open().schedule()[*next].configuration,
                         visits.empty() ? std::nullopt : std::optional(visits.back()));
}

RunSheetViewModel::Checklist RunSheetViewModel::checklist() const {
  Checklist list;
  const session::Session& session = study_.session();
  const auto next = session.nextSlot();
  if (!next) return list;
  const int visit = session.open().schedule()[*next].visit;
  const bool is_begun = session.open().visit() != nullptr && session.open().visit()->planned == visit;
  const bool is_contradicted =
      session.state() == session::State::Held && session.problem()->kind == core::ErrorKind::NotAtLevel;
  if (is_begun && !is_contradicted) return list;
  for (const session::ChecklistPoint& point : session::dueChecklist(session.open())) {
    list.points << toQt(point.text);
    if (point.is_done) list.ticked << toQt(point.text);
  }
  return list;
}

QString RunSheetViewModel::cautionText() const {
  QStringList cautions;
  for (const std::string& caution : guide().cautions) cautions << toQt(caution);
  return cautions.isEmpty() ? tr("Cards, coolers and drives are hot after a pass. For every setting the maker's manual "
                                 "has the last word.")
                            : cautions.join(QLatin1Char(' '));
}

HandCard RunSheetViewModel::readyCard() const {
  const session::Session& session = study_.session();
  const core::Slot& slot = session.open().schedule()[*session.nextSlot()];
  const core::Setup setup = core::setupOf(study_.study(), slot.configuration);
  HandCard card;
  card.title = study_.study().variables.size() == 1
                   ? tr("%1 at %2").arg(toQt(study_.study().variable().name), toQt(setup.name))
                   : toQt(setup.name);
  card.title[0] = card.title[0].toUpper();
  card.line = tr("Next: visit %1 of the sheet").arg(slot.visit);
  addFlipSteps(card, setup);
  if (session.recorded().visits.empty()) {
    QStringList asks;
    for (const std::string& sentence : core::schoolAsks(study_.study().school)) asks << toQt(sentence);
    card.steps << asks.join(QLatin1Char(' '));
  }
  if (core::raisesLimits(setup))
    card.steps << tr("This level goes beyond what the maker set: stay with it while it runs.");
  card.steps << tr(
      "Close other programs, let the machine come to rest, start, and leave it alone until the sheet is "
      "done or you stop it. A stop or a crash loses no finished pass.");
  card.caution = cautionText();
  return card;
}

HandCard RunSheetViewModel::hand() const {
  const session::Session& session = study_.session();
  if (session.isRunning()) return runningCardOf(study_, players_key_);
  if (!study_.problems().empty()) {
    HandCard card;
    card.title = tr("The question is not complete");
    for (const core::Error& problem : study_.problems()) card.steps << toQt(problem.sentence());
    return card;
  }
  if (session.state() == session::State::Held && session.problem()->kind == core::ErrorKind::NotAtLevel) {
    HandCard card;
    card.title = tr("The bench is not at %1").arg(toQt(study_.study().nameOf(session.open().visit()->configuration)));
    card.line = toQt(session.problem()->what) + QLatin1Char('.');
    card.steps << tr("No pass of this visit has run. Set the level, then press “Set it and look again”.");
    card.steps << tr(
        "Or measure it all the same, with the reason why you know better; or record that the level cannot "
        "be reached, which is a result too.");
    card.is_problem = card.is_contradicted = true;
    return card;
  }
  if (session.state() == session::State::Held) {
    HandCard card;
    card.title = tr("The sheet is paused");
    card.line = toQt(session.problem()->sentence());
    card.steps << tr("Every finished pass is safe. Put it right, then press “Try again”.");
    card.steps << tr("A level that cannot be reached is a result too: Bench work > Record a level as not reachable.");
    card.is_problem = true;
    return card;
  }
  if (!session.nextSlot()) {
    HandCard card;
    card.title = tr("The sheet is done");
    const core::Findings& findings = study_.judgement().findings;
    const int in = findings.recorded_passes;
    card.line = in == findings.planned_passes
                    ? tr("All %1 passes are in").arg(in)
                    : tr("%1 of %2 planned passes are in").arg(in).arg(findings.planned_passes);
    if (findings.failed_passes > 0) card.line += tr(", %1 of them failed").arg(findings.failed_passes);
    card.line += QLatin1Char('.');
    const core::Study& study = study_.study();
    const core::ConfigurationId stands_at =
        session.recorded().visits.empty() ? study.baseline() : session.recorded().visits.back().configuration;
    if (stands_at != study.baseline() && !core::setupOf(study, stands_at).set_commands.empty())
      card.steps << tr("The bench still stands at %1: bring it back to %2 before other work.")
                        .arg(toQt(study.nameOf(stands_at)), toQt(study.nameOf(study.baseline())));
    return card;
  }
  return session.machine().unapprovedActs().empty() ? readyCard() : approvalCard();
}

QString RunSheetViewModel::timeLine() const {
  const session::Session& session = study_.session();
  QStringList parts;
  if (session.pass().slotInHand()) parts << tr("%1 s in this pass").arg(session.pass().secondsInPass(), 0, 'f', 0);
  if (session.nextSlot())
    if (const auto left = session::secondsLeft(session.open(), session.pass().secondsInPass()))
      parts << tr("about %1 left, until %2")
                   .arg(toQt(core::durationText(*left)),
                        clockText(session.open().now() + static_cast<std::int64_t>(1000 * *left)).left(5));
  return parts.join(QStringLiteral(" · "));
}

// The hottest part, the highest clock, the power and the load: what a person glances at.
QString RunSheetViewModel::sampleLine() const {
  const core::Samples* samples = study_.session().pass().samples();
  if (!samples || samples->empty()) return {};
  using core::ChannelRole;
  QStringList parts;
  for (const auto& [role, format] :
       {std::pair{ChannelRole::Temperature, tr("hottest part %1 °C")},
        std::pair{ChannelRole::Clock, tr("highest clock %1 MHz")}, std::pair{ChannelRole::Power, tr("most power %1 W")},
        std::pair{ChannelRole::Load, tr("highest load %1 %")}}) {
    std::optional<double> highest;
    for (const core::Channel& channel : samples->channels)
      if (channel.role == role && std::isfinite(channel.values.back()))
        highest = std::max(highest.value_or(channel.values.back()), channel.values.back());
    if (highest) parts << format.arg(*highest, 0, 'f', 0);
  }
  return parts.join(QStringLiteral(" · "));
}

QString RunSheetViewModel::feelQuestion() const {
  const auto pass = study_.session().pass().passToFeel();
  if (!pass) return {};
  const core::Slot& slot = study_.session().open().schedule()[study_.session().recorded().passes.back().slot];
  return tr("How did %1 feel?").arg(toQt(study_.study().cases[slot.case_index].title()));
}

}  // namespace app
