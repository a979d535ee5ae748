#include "app/shell/window_actions.h"

#include <QAction>
#include <QMenu>
#include <QMenuBar>
#include <map>

#include "app/model/person_acts.h"
#include "app/model/qt_text.h"
#include "app/shell/doubts_tray.h"
#include "app/shell/main_window.h"
#include "session/user/global_key.h"

namespace app {
namespace {

QString id(const char* text) { return QString::fromLatin1(text); }

QString helpPageOf(core::Place place) {
  switch (place) {
    case core::Place::Question: return QStringLiteral("question");
    case core::Place::Bench: return QStringLiteral("bench");
    case core::Place::RunSheet: return QStringLiteral("run-sheet");
    case core::Place::Passes: return QStringLiteral("passes");
    case core::Place::Findings: return QStringLiteral("findings");
    case core::Place::Report: return QStringLiteral("report");
  }
  return {};
}

}  // namespace

// NOLINTNEXTLINE(readability-function-size): a table
std::vector<WindowAction> WindowActions::of(MainWindow& w) {
  const QString study = tr("Study");
  const QString bench = tr("Bench work");
  const QString view = tr("View");
  const QString help = tr("Help");
  return {
      {id("newStudyAction"), study, tr("New study"), QKeySequence(QStringLiteral("Ctrl+N")),
       [&w] { w.newStudy(false); }},
      {id("newFromThisAction"), study, tr("Repeat this study, or ask the next"),
       QKeySequence(QStringLiteral("Ctrl+Shift+F")), [&w] { w.newStudy(true); }},
      {id("newNullAction"), study, tr("New null study of this bench"), {}, [&w] { w.newNullStudy(); }},
      {id("confirmAction"),
       study,
       tr("Confirm the chosen case in a study of its own"),
       {},
       [&w] { w.newConfirmation(); }},
      {id("openStudyAction"), study, tr("Open …"), QKeySequence(QStringLiteral("Ctrl+O")), [&w] { w.openStudy(); }},
      {id("keepElsewhereAction"), study, tr("Keep it elsewhere …"), {}, [&w] { w.keepElsewhere(); }},
      {id("undoAction"), study, tr("Undo"), QKeySequence::Undo, [&w] { w.study_.undo(); }},
      {id("openDemoAction"), study, tr("Open the demo"), {}, [&w] { w.openDemo(QStringLiteral("memory-speed")); }},
      {id("demoAccidentAction"),
       study,
       tr("Demo of an accident: what else changed?"),
       {},
       [&w] { w.openDemo(QStringLiteral("memory-accident")); }},
      {id("demoLadderAction"),
       study,
       tr("Demo of a ladder: how much link is enough?"),
       {},
       [&w] { w.openDemo(QStringLiteral("link-ladder")); }},
      {id("demoCrossedAction"),
       study,
       tr("Demo of two variables crossed: does it still help there?"),
       {},
       [&w] { w.openDemo(QStringLiteral("aperture-crossed")); }},
      {id("demoChainAction"),
       study,
       tr("Demo of a chain: where does the loss go?"),
       {},
       [&w] { w.openDemo(QStringLiteral("box-chain")); }},
      {id("demoAmountAction"),
       study,
       tr("Demo of memory amounts: what does more make possible?"),
       {},
       [&w] { w.openDemo(QStringLiteral("memory-amount")); }},
      {id("demoSideBySideAction"),
       study,
       tr("Demo of studies side by side: has it become better?"),
       {},
       [&w] { w.openDemo(QStringLiteral("side-by-side")); }},
      {id("practiceAction"), study, tr("Practice on a bench with a hidden truth …"), {}, [&w] { w.openPractice(); }},
      {id("quitAction"), study, tr("Quit"), QKeySequence(QStringLiteral("Ctrl+Q")), [&w] { w.close(); }},
      {id("nextAction"), bench, tr("Next action"), QKeySequence(QStringLiteral("Ctrl+Return")),
       [&w] { w.pressNext(); }},
      {id("stopNowAction"), bench, tr("Stop now; the pass in hand runs again"), QKeySequence(QStringLiteral("Ctrl+.")),
       [&w] { w.study_.stopNow(); }},
      {id("startAction"),
       bench,
       tr("Start, or go on, with the level as it is"),
       {},
       [&w] {
         w.goTo(core::Place::RunSheet);
         if (w.study_.hasStudy() && !w.study_.study().ssh_name.empty()) return w.startThere();
         w.study_.act(&session::Session::start);
       }},
      {id("atWorkAction"), bench, tr("Several benches at once …"), {}, [&w] { w.openAtWork(); }},
      {id("repeatFailedAction"),
       bench,
       tr("Repeat failed passes"),
       {},
       [&w] { w.study_.act([&](session::Session& s) { return s.decisions().repeatFailed(); }); }},
      {id("questionAction"), view, tr("Question"), QKeySequence(QStringLiteral("Ctrl+1")),
       [&w] { w.goTo(core::Place::Question); }},
      {id("benchAction"), view, tr("Bench"), QKeySequence(QStringLiteral("Ctrl+2")),
       [&w] { w.goTo(core::Place::Bench); }},
      {id("runSheetAction"), view, tr("Run sheet"), QKeySequence(QStringLiteral("Ctrl+3")),
       [&w] { w.goTo(core::Place::RunSheet); }},
      {id("passesAction"), view, tr("Passes"), QKeySequence(QStringLiteral("Ctrl+4")),
       [&w] { w.goTo(core::Place::Passes); }},
      {id("findingsAction"), view, tr("Findings"), QKeySequence(QStringLiteral("Ctrl+5")),
       [&w] { w.goTo(core::Place::Findings); }},
      {id("usedAction"), view, tr("What the levels used"), QKeySequence(QStringLiteral("Ctrl+U")),
       [&w] { w.showUsed(); }},
      {id("reportPlaceAction"), view, tr("Report"), QKeySequence(QStringLiteral("Ctrl+6")),
       [&w] { w.goTo(core::Place::Report); }},
      {id("copyChartAction"), view, tr("Copy the chart"), QKeySequence(QStringLiteral("Ctrl+Shift+C")),
       [&w] { w.copyChart(); }},
      {id("saveChartAction"), view, tr("Save the chart …"), {}, [&w] { w.saveChart(); }},
      {id("doubtsAction"), view, tr("Doubts, open or close"), QKeySequence(QStringLiteral("Ctrl+0")),
       [&w] { w.tray_->setOpen(!w.tray_->isOpen()); }},
      {id("cabinetAction"), view, tr("Cabinet: all your studies"), QKeySequence(QStringLiteral("Ctrl+K")),
       [&w] { w.openCabinet(); }},
      {id("deskAction"), view, tr("Desk: sums for planning"), QKeySequence(QStringLiteral("Ctrl+D")),
       [&w] { w.openDesk(); }},
      {id("logbookAction"), view, tr("Logbook"), QKeySequence(QStringLiteral("Ctrl+L")), [&w] { w.openLogbook(); }},
      {id("statedAction"), bench, tr("What only you know about the bench …"),
       QKeySequence(QStringLiteral("Ctrl+Shift+K")), [&w] { w.askStatedFacts(); }},
      {id("unreachableAction"), bench, tr("Record a level as not reachable …"), {}, [&w] { w.askUnreachable(); }},
      {id("skipAction"), bench, tr("Skip the next pass …"), {}, [&w] { w.askSkip(); }},
      {id("repeatVisitAction"), bench, tr("Repeat a visit that is left out …"), {}, [&w] { w.askRepeatVisit(); }},
      {id("measureAnywayAction"),
       bench,
       tr("Measure a contradicted level all the same …"),
       {},
       [&w] { w.askMeasureAnyway(); }},
      {id("addRoundAction"), bench, tr("One more round …"), {}, [&w] { w.askRound(); }},
      {id("extendAction"), bench, tr("Extend the finished plan once"), {}, [&w] { w.extendPlan(); }},
      {id("secondPartAction"), bench, tr("Add cases in a second part …"), {}, [&w] { w.askSecondPart(); }},
      {id("takeLevelAction"), bench, tr("Take a level from an earlier study …"), {}, [&w] { w.askTakenLevel(); }},
      {id("searchAction"), bench, tr("Search for the highest stable step …"), {}, [&w] { w.openSearch(); }},
      {id("printSheetAction"), bench, tr("Write the run sheet as a page to print …"), {}, [&w] { w.savePaperSheet(); }},
      {id("stopAtLookAction"),
       bench,
       tr("End the study at this interim look"),
       {},
       [&w] { w.study_.act([&](session::Session& s) { return s.decisions().stopAtLook(); }); }},
      {id("testedAction"), bench, tr("A level was tested for errors …"), {}, [&w] { w.askTested(); }},
      {id("secondFolderAction"),
       bench,
       tr("Copy to a second folder after each pass …"),
       {},
       [&w] { w.askSecondFolder(); }},
      {id("feltSmoothAction"), bench, tr("The last pass felt smooth"), QKeySequence(QStringLiteral("F6")),
       [&w] { sayHowItFelt(w.study_, QStringLiteral("smooth")); }},
      {id("feltHitchesAction"), bench, tr("The last pass had hitches"), QKeySequence(QStringLiteral("F7")),
       [&w] { sayHowItFelt(w.study_, QStringLiteral("hitches")); }},
      {id("feltUnusableAction"), bench, tr("The last pass was unusable"), QKeySequence(QStringLiteral("F8")),
       [&w] { sayHowItFelt(w.study_, QStringLiteral("unusable")); }},
      {id("openEarlyAction"), bench, tr("Open sealed results early …"), {}, [&w] { w.openEarly(); }},
      {id("benchesAction"), view, tr("Benches over time"), QKeySequence(QStringLiteral("Ctrl+B")),
       [&w] { w.openBenches(); }},
      {id("noteAction"), bench, tr("Add a note to the logbook …"), QKeySequence(QStringLiteral("Ctrl+Shift+N")),
       [&w] { w.addNote(); }},
      {id("nightAction"), view, tr("Paper or night bench"), QKeySequence(QStringLiteral("Ctrl+T")),
       [&w] { w.toggleNight(); }},
      {id("helpAction"), help, tr("This page"), QKeySequence(QStringLiteral("F1")),
       [&w] { w.openHelp(w.study_.hasStudy() ? helpPageOf(w.place()) : QStringLiteral("cabinet")); }},
      {id("guideAction"),
       help,
       tr("Five whole jobs, step by step"),
       {},
       [&w] { w.openHelp(QStringLiteral("../guide")); }},
      {id("doubtsHelpAction"), help, tr("Doubts, each explained"), {}, [&w] { w.openHelp(QStringLiteral("doubts")); }},
      {id("wordsHelpAction"), help, tr("Words, each in one line"), {}, [&w] { w.openHelp(QStringLiteral("words")); }},
      {id("deskHelpAction"), help, tr("The desk"), {}, [&w] { w.openHelp(QStringLiteral("desk")); }},
      {id("practiceHelpAction"), help, tr("Practice"), {}, [&w] { w.openHelp(QStringLiteral("practice")); }},
      {id("cabinetHelpAction"),
       help,
       tr("Cabinet, and studies side by side"),
       {},
       [&w] { w.openHelp(QStringLiteral("cabinet")); }},
      {id("verdictsHelpAction"), help, tr("Verdicts and marks"), {}, [&w] { w.openHelp(QStringLiteral("verdicts")); }},
      {id("methodHelpAction"),
       help,
       tr("The method, and why it is this one"),
       {},
       [&w] { w.openHelp(QStringLiteral("../method")); }},
      {id("keysAction"), help, tr("Keys"), QKeySequence(QStringLiteral("Ctrl+F1")),
       [&w] { w.prompts_.tell(&w, keysText(windowActions(w))); }},
  };
}

std::vector<WindowAction> windowActions(MainWindow& window) { return WindowActions::of(window); }

void buildMenus(MainWindow& window, const std::vector<WindowAction>& actions) {
  std::map<QString, QMenu*> menus;
  for (const WindowAction& entry : actions) {
    QMenu*& menu = menus[entry.menu];
    if (!menu) menu = window.menuBar()->addMenu(entry.menu);
    auto* action = menu->addAction(entry.text);
    action->setObjectName(entry.id);
    action->setShortcut(entry.shortcut);
    QObject::connect(action, &QAction::triggered, &window, entry.run);
  }
}

QString keysText(const std::vector<WindowAction>& actions) {
  QString text;
  for (const WindowAction& entry : actions)
    if (!entry.shortcut.isEmpty())
      text += QStringLiteral("%1\t%2\n").arg(entry.shortcut.toString(QKeySequence::NativeText), entry.text);
  return text + tr("%1\tIn a program that is played: count from here, and end it").arg(session::GlobalKey::name());
}

}  // namespace app
