// What the window's menu asks of a person, and passes on to the study.
#include <algorithm>

#include "app/findings/findings_page.h"
#include "app/model/next_studies.h"
#include "app/model/person_acts.h"
#include "app/passes/import_dialog.h"
#include "app/passes/passes_page.h"
#include "app/question/take_level_dialog.h"
#include "app/run_sheet/search_dialog.h"
#include "app/shell/main_window.h"
#include "app/shell/observation_dialog.h"
#include "core/values/shown_text.h"
#include "report/paper_sheet.h"
#include "session/study/observation.h"
#include "session/study/visit_pictures.h"
#include "session/user/output_file.h"
#include "session/user/person.h"

namespace app {

void MainWindow::askStatedFacts() {
  if (!study_.hasStudy()) return;
  std::map<QString, QString> known;
  for (const core::Fact& fact : store::statedFactsOf(study_.session().recorded()))
    known[toQt(fact.name.substr(fact.name.find('/') + 1))] = toQt(fact.value);
  if (const auto facts = prompts_.statedFacts(this, known)) stateFacts(study_, *facts);
}

void MainWindow::showPrinted(qint64 pass_id, const QString& of_what) {
  const auto printed = study_.session().open().file().output(pass_id);
  if (!printed) return prompts_.tell(this, toQt(printed.error().sentence()));
  std::vector<Prompts::Chapter> chapters;
  for (const auto& [heading, text] : {std::pair{tr("Output"), &printed->output},
                                      {tr("Errors"), &printed->error_output},
                                      {tr("Beside it"), &printed->of_companion}})
    if (!text->empty()) chapters.push_back({heading, toQt(core::shownText(*text))});
  if (chapters.empty()) return prompts_.inform(this, tr("%1 printed nothing.").arg(of_what));
  prompts_.read(this, tr("What %1 printed").arg(of_what), chapters);
}

static QStringList levelNames(const core::Study& study) {
  QStringList names;
  for (const core::ConfigurationId one : core::configurationsOf(study)) names << toQt(study.nameOf(one));
  return names;
}

void MainWindow::openEarly() {
  if (!study_.hasStudy() || !study_.judgement().is_sealed) return;
  if (const auto reason = prompts_.reason(this, tr("Open the results before the plan is complete")))
    study_.act([&](session::Session& s) { return s.decisions().openEarly(reason->toStdString()); });
}

void MainWindow::askUnreachable() {
  if (!study_.hasStudy()) return;
  const auto next = study_.session().nextSlot();
  const auto suggested =
      next ? study_.session().open().schedule()[*next].configuration : core::ConfigurationId::Changed;
  const QStringList levels = levelNames(study_.study());
  if (const auto chosen = prompts_.unreachable(this, levels, static_cast<int>(suggested)))
    study_.act([&](session::Session& s) {
      return s.decisions().declareUnreachable(core::configurationAt(static_cast<std::size_t>(chosen->level)),
                                              chosen->reason.toStdString());
    });
}

void MainWindow::askPrediction() {
  if (!study_.hasStudy()) return;
  if (const auto said = prompts_.prediction(this, toQt(session::personAtThisMachine())))
    study_.act(
        [&](session::Session& s) { return s.decisions().predict(said->who.trimmed().toStdString(), said->percent); });
}

void MainWindow::askSkip() {
  if (!study_.hasStudy()) return;
  if (const auto reason = prompts_.reason(this, tr("Skip the next pass of the sheet")))
    study_.act([&](session::Session& s) { return s.decisions().skipNext(reason->toStdString()); });
}

void MainWindow::askMeasureAnyway() {
  if (!study_.hasStudy()) return;
  if (const auto reason = prompts_.reason(this, tr("Measure this level all the same")))
    if (study_.act([&](session::Session& s) { return s.decisions().measureAnyway(reason->toStdString()); }))
      study_.act(&session::Session::start);
}

// The first visit whose passes do not count.
void MainWindow::askRepeatVisit() {
  if (!study_.hasStudy()) return;
  const core::Record record = store::recordOf(study_.session().recorded());
  const auto retired = core::retiredVisits(study_.study(), record, study_.judgement().steps);
  const auto first = std::find_if(record.visits.begin(), record.visits.end(), [&](const core::Visit& one) {
    return std::find(retired.begin(), retired.end(), one.id) != retired.end();
  });
  if (first == record.visits.end()) return prompts_.tell(this, tr("No visit is left out: there is none to repeat."));
  const int planned = first->planned;
  if (const auto reason = prompts_.reason(this, tr("Set and measure visit %1 once more").arg(planned)))
    study_.act([&](session::Session& s) { return s.decisions().repeatVisit(planned, reason->toStdString()); });
}

void MainWindow::extendPlan() {
  if (const auto& extension = study_.judgement().extension)
    study_.act([&](session::Session& s) { return s.decisions().extendPlan(*extension); });
}

void MainWindow::askRound() {
  if (!study_.hasStudy()) return;
  if (const auto reason = prompts_.reason(this, tr("One more round at the end of the plan")))
    study_.act([&](session::Session& s) { return s.decisions().addRound(reason->toStdString()); });
}

void MainWindow::askSecondPart() {
  if (!study_.hasStudy()) return;
  if (const auto allowed = session::checkSecondPart(study_.session().open()); !allowed)
    return study_.tell(allowed.error());
  if (const auto part = prompts_.secondPart(this, study_.study()))
    study_.act([&](session::Session& s) {
      return s.decisions().addSecondPart(part->cases, part->rounds, part->reason.toStdString());
    });
}

void MainWindow::askTakenLevel() {
  if (!study_.hasStudy()) return;
  auto* dialog = new TakeLevelDialog(study_, prompts_, this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  dialog->open();
}

void MainWindow::openSearch() {
  if (!study_.hasStudy()) return;
  auto* dialog = new SearchDialog(study_, this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  dialog->open();
}

void MainWindow::savePaperSheet() {
  if (!study_.hasStudy()) return;
  if (const auto& problems = study_.problems(); !problems.empty()) return study_.tell(problems.front());
  if (const auto path = prompts_.savePath(this, QStringLiteral("run-sheet.html")))
    if (auto written = session::writeOutput(path->toStdString(), report::paperSheet(study_.study())); !written)
      study_.tell(written.error());
}

void MainWindow::keepPicture(int visit) {
  if (const auto path = prompts_.picturePath(this, tr("Picture of how the bench is set up for visit %1").arg(visit)))
    study_.act([&](session::Session& s) { return session::keepVisitPicture(s.open(), visit, path->toStdString()); });
}

void MainWindow::askNextQuestion() {
  if (const auto next = furtherDown(study_)) study_.create(newStudyPath(study_), *next);
}

void MainWindow::newConfirmation() {
  if (!study_.hasStudy() || study_.judgement().is_sealed) return;
  const auto chosen = findings_->chosenCase();
  if (chosen && study_.judgement().isSealed(study_.study().cases[*chosen]))
    return prompts_.tell(this, tr("This case is sealed until the second part is complete."));
  if (!chosen) return prompts_.tell(this, tr("Choose the case that surprises you on the findings page first."));
  confirm(study_, newStudyPath(study_), *chosen);
}

void MainWindow::askTested() {
  if (!study_.hasStudy()) return;
  const QStringList levels = levelNames(study_.study());
  if (const auto tested = prompts_.tested(this, levels))
    study_.act([&](session::Session& s) {
      return s.decisions().stateStable(core::configurationAt(static_cast<std::size_t>(tested->level)),
                                       tested->reason.toStdString());
    });
}

void MainWindow::askSecondFolder() {
  if (!study_.hasStudy()) return;
  if (const auto folder = prompts_.folder(this, toQt(study_.session().secondCopy().folder())))
    study_.act([&](session::Session& s) { return s.secondCopy().setFolder(folder->toStdString()); });
}

void MainWindow::callWhereNeeded() {
  if (!study_.hasStudy()) return;
  const session::Session& session = study_.session();
  const bool waits_for_player =
      session.state() == session::State::AwaitingPlayer || session.state() == session::State::AwaitingResult;
  keep_awake_.set(session.isRunning(), tr("a benchmark is running"));
  cabinet_->setQuiet(session.isRunning());
  const bool is_running = session.isRunning() && !waits_for_player;
  if (std::exchange(was_running_, is_running) && !is_running)
    prompts_.call(this, tr("%1: %2").arg(sheet_.hand().title, nextActionOf(study_, place_).text));
}

void MainWindow::hearPlayersKey() {
  const bool is_playing = study_.hasStudy() && (study_.session().state() == session::State::AwaitingPlayer ||
                                                study_.session().pass().stretch() != nullptr);
  sheet_.setPlayersKey(players_key_.hold(is_playing) ? session::GlobalKey::name() : QString());
}

void MainWindow::typeResults() {
  goTo(core::Place::Passes);
  passes_page_->show(PassesPage::Typing);
}

void MainWindow::showFrames() {
  goTo(core::Place::Passes);
  passes_page_->show(PassesPage::Frames);
}

void MainWindow::showUsed() {
  goTo(core::Place::Findings);
  findings_->showUsed();
}

void MainWindow::importLogs(const QStringList& dropped) {
  if (!study_.hasStudy()) return;
  const QStringList paths = dropped.isEmpty() ? prompts_.logPaths(this) : dropped;
  if (paths.isEmpty()) return;
  auto* dialog = new ImportDialog(study_, paths, this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  dialog->open();
}

void MainWindow::addNote() {
  if (!study_.hasStudy()) return;
  if (const auto text = prompts_.note(this))
    study_.act([&](session::Session& s) { return s.decisions().addNote(text->toStdString()); });
}

void MainWindow::addObservation() {
  if (!study_.hasStudy()) return;
  auto* dialog = new ObservationDialog(prompts_, inFront(this));
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &QDialog::accepted, this, [this, dialog] {
    study_.act([&](session::Session& s) {
      auto observed = session::observe(s.open(), dialog->text().toStdString(), dialog->picture().toStdString());
      if (observed) Q_EMIT s.decisions().changed();
      return observed;
    });
  });
  dialog->open();
}

}  // namespace app
